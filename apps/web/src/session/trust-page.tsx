// How a phone or another machine comes to trust an installation with a local authority; open to whoever comes by.

import type { AuthorityView } from '@drive-keep/api';
import { useQuery } from '@tanstack/react-query';
import { get, type ProblemError } from '../api/client.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showDate } from '../words/dates.ts';

export function TrustPage() {
  const { data, error } = useQuery<AuthorityView, ProblemError>({
    queryKey: ['authority'],
    queryFn: () => get('authority'),
  });
  if (!data) return <Unanswered error={error} what="the authority of this installation" />;
  if (data.fingerprint === null)
    return (
      <Page title="Trust">
        <p className="mt-6">
          This installation has no authority of its own: nothing has to be told to a phone.{' '}
          <a href="/" className="text-plum underline">
            To the register
          </a>
        </p>
      </Page>
    );
  return (
    <Page title="Trust">
      <h1 className="text-2xl font-semibold">Tell this device to trust Drive Keep</h1>
      <p className="mt-1 mb-3 text-soft">
        Once for each phone, tablet or machine. Then there is no warning any more, and reading off and keying
        in work without a network.
      </p>
      <SheetPart name="1. Compare">
        <p>The server printed this fingerprint when it was started. Is it the same?</p>
        <p className="mt-1 font-mono text-sm break-all">{data.fingerprint}</p>
        <p className="mt-1 text-sm text-soft">Valid to {showDate(data.validTo ?? '')}.</p>
      </SheetPart>
      <SheetPart name="2. Take it">
        <a
          href="/api/authority/certificate"
          className="inline-flex min-h-12 items-center rounded border border-plum bg-plum px-4 font-medium text-on-plum"
        >
          Take the certificate
        </a>
      </SheetPart>
      <SheetPart name="3. Trust it">
        <ul className="list-disc pl-5">
          <li>
            <b>Phones and tablets:</b> in the settings, under security and certificates, install the file as a
            certificate of an authority (CA). Some ask for more: install the profile that was loaded, then
            switch it on under trusted certificates.
          </li>
          <li>
            <b>Desks:</b> open the file and put it among the trusted root authorities of the machine. Some
            browsers keep a list of their own, in their settings under certificates.
          </li>
        </ul>
      </SheetPart>
      <SheetPart name="4. Open it anew">
        <a href="/" className="text-plum underline">
          To the register
        </a>
      </SheetPart>
    </Page>
  );
}
