import { isRouteErrorResponse, Link, useRouteError } from 'react-router';
import { Notice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { NotFoundPage } from './not-found-page.tsx';

/** In the place of a screen that could not be drawn. What was kept is not touched by that. */
export function BrokenPage() {
  const error = useRouteError();
  if (isRouteErrorResponse(error) && error.status === 404) return <NotFoundPage />;
  return (
    <Page title="Not drawn">
      <Notice level="stop">
        This screen could not be drawn; what is kept on the server is as it was. Load it again. If it comes
        back, tell an engineer: {error instanceof Error ? error.message : String(error)}
      </Notice>
      <p className="mt-3 flex gap-4">
        <button
          type="button"
          className="min-h-12 text-plum underline"
          onClick={() => window.location.reload()}
        >
          Load it again
        </button>
        <Link to="/" className="grid min-h-12 items-center text-plum underline">
          Register
        </Link>
      </p>
    </Page>
  );
}
