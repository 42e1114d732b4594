// Why a file was not taken: with the one thing that can be done about it on the spot, which is to read it as Latin-1.

import type { ProblemError } from '../api/client.ts';
import { Button } from './button.tsx';
import { ProblemNotice } from './notice.tsx';

export function FileProblem({ error, readAsLatin }: { error: ProblemError; readAsLatin: () => void }) {
  return (
    <>
      <ProblemNotice error={error} />
      {error.problem.type.endsWith('encoding') && (
        <Button className="mt-2 min-h-12" onClick={readAsLatin}>
          Read it as Latin-1
        </Button>
      )}
    </>
  );
}
