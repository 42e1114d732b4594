// What is done with a whole model: its files taken along, a model of one's own begun from it, and what does not work with it as
// long as its dictionary does not tell more.

import type { ModelDraftView, ModelListing } from '@drive-keep/api';
import { gapsOf, type Dictionary } from '@drive-keep/core/dictionary';
import { describe } from '@drive-keep/core/findings';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useModels, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';

interface Name {
  readonly maker: string;
  readonly name: string;
}

export function ModelWays({ dictionary }: { dictionary: Dictionary }) {
  const { data: session } = useSession();
  const { data: models } = useModels();
  const [naming, setNaming] = useState(false);
  const navigate = useNavigate();
  const begin = useMutation<ModelDraftView, ProblemError, Name | undefined>({
    mutationFn: (as) => post(`model-drafts/from/${dictionary.id}`, as ? { as } : {}),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['model-drafts'] });
      void navigate(`/models/drafts/${id}`);
    },
  });
  const own = isOwn(models, dictionary.id);
  return (
    <>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <a href={`/api/dictionaries/${dictionary.id}/files`} download className="text-sm text-plum underline">
          Save its files (ZIP)
        </a>
        <Link to={`/models/${dictionary.id}/dry-run`} className="text-sm text-plum underline">
          Dry run
        </Link>
        {session?.role === 'engineer' && (
          <>
            {own && (
              <Button disabled={begin.isPending} onClick={() => begin.mutate(undefined)}>
                Change it, as the next version
              </Button>
            )}
            <Button aria-expanded={naming} onClick={() => setNaming(!naming)}>
              Begin a model of your own from it
            </Button>
          </>
        )}
      </div>
      {naming && <Naming pending={begin.isPending} begin={(as) => begin.mutate(as)} />}
      {begin.error && <ProblemNotice error={begin.error} />}
      <Gaps dictionary={dictionary} />
    </>
  );
}

const isOwn = (models: readonly ModelListing[] | undefined, id: string): boolean =>
  models?.some((each) => each.id === id && each.importedBy !== null) ?? false;

function Naming({ pending, begin }: { pending: boolean; begin: (as: Name) => void }) {
  const [as, setAs] = useState<Name>({ maker: '', name: '' });
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        begin(as);
      }}
    >
      <Field
        label="Maker"
        required
        maxLength={60}
        value={as.maker}
        onChange={({ target }) => setAs({ ...as, maker: target.value })}
      />
      <Field
        label="Model"
        required
        maxLength={60}
        value={as.name}
        onChange={({ target }) => setAs({ ...as, name: target.value })}
      />
      <Button type="submit" weight="main" className="min-h-11" disabled={pending}>
        Begin it
      </Button>
    </form>
  );
}

function Gaps({ dictionary }: { dictionary: Dictionary }) {
  const gaps = gapsOf(dictionary);
  if (gaps.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="text-soft">
        {gaps.length === 1 ? '1 thing is' : `${gaps.length} things are`} not told of this model
      </summary>
      <ul className="mt-1 list-disc pl-6">
        {gaps.map((gap) => (
          <li key={gap.code}>{describe(gap)}</li>
        ))}
      </ul>
    </details>
  );
}
