import { Link } from 'react-router';
import { Page } from '../ui/page.tsx';

export function NotFoundPage() {
  return (
    <Page title="Nothing here">
      <h1 className="text-2xl font-semibold">There is nothing at this address</h1>
      <p className="mt-2">
        Start from the{' '}
        <Link to="/" className="text-plum underline">
          register
        </Link>
        , or press Ctrl K and type a tag.
      </p>
    </Page>
  );
}
