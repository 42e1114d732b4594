// A position with the unit that sits there. The server checks everything; what it refuses is said and nothing is lost.
// The address may bring what is known of a unit that was found on a line.

import type { PositionDetailView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { forgetPositions } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { PlaceInputs, unitBody, UnitInputs, type PlaceFields, type UnitFields } from './register-inputs.tsx';

type Fields = PlaceFields & UnitFields;

export function NewPositionPage() {
  const [known] = useSearchParams();
  const form = useForm<Fields>({
    defaultValues: { criticality: 'middle', ...(Object.fromEntries(known) as Partial<Fields>) },
  });
  const navigate = useNavigate();
  const add = useMutation<PositionDetailView, ProblemError, Fields>({
    mutationFn: (fields) => post('positions', bodyOf(fields)),
    onSuccess: async ({ tag }) => {
      await forgetPositions();
      void navigate(`/positions/${tag}`);
    },
  });
  return (
    <Page title="Add a position">
      <h1 className="mb-3 text-2xl font-semibold">Add a position</h1>
      <form onSubmit={(event) => void form.handleSubmit((fields) => add.mutate(fields))(event)}>
        <SheetPart name="Place and duty">
          <PlaceInputs form={form} />
        </SheetPart>
        <SheetPart name="Unit">
          <UnitInputs form={form} />
        </SheetPart>
        <SheetPart name="Add">
          <Button type="submit" weight="main" disabled={add.isPending}>
            Add the position
          </Button>
          {add.error && (
            <div className="mt-2">
              <ProblemNotice error={add.error} />
            </div>
          )}
        </SheetPart>
      </form>
    </Page>
  );
}

function bodyOf({ tag, duty, area, machine, criticality, motor, ...unit }: Fields): object {
  return { tag: tag.trim(), duty, area, machine, criticality, motor, ...unitBody(unit) };
}
