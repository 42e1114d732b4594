import type { WritePlanView, WriteStepView } from '@drive-keep/api';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import { showRaw, type Reading } from '@drive-keep/core/values';

const STATE_MARKS: Readonly<Record<WriteStepView['state'], string>> = {
  planned: '',
  writing: 'at work',
  written: '✓ read back',
  failed: '! failed',
};

export function StepTable({ plan, dictionary }: { plan: WritePlanView; dictionary: Dictionary }) {
  if (plan.steps.length === 0)
    return (
      <p>
        Nothing to write: the unit holds all these values already, or cannot take them.
        {dictionary.line?.save && ' What it holds in its working memory can still be saved permanently.'}
      </p>
    );
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full text-left [&_td]:pr-3 [&_th]:pr-3">
        <thead className="text-sm text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 font-normal">Code</th>
            <th className="font-normal">Parameter</th>
            <th className="font-normal">Holds</th>
            <th className="font-normal">Gets</th>
            <th className="font-normal">Why</th>
            <th className="font-normal">State</th>
          </tr>
        </thead>
        {phasesOf(plan.steps).map(({ phase, steps }) => (
          <tbody key={phase + steps[0]?.code}>
            <tr>
              <th colSpan={6} scope="rowgroup" className="pt-3 pb-1 text-sm font-semibold">
                {PHASES[phase]} <span className="font-normal text-soft">{steps.length}</span>
              </th>
            </tr>
            {steps.map((step, at) => (
              <StepRow key={`${step.code} ${at}`} step={step} plan={plan} dictionary={dictionary} />
            ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

const PHASES: Readonly<Record<WriteStepView['phase'], string>> = {
  reset: 'Reset',
  unlock: 'Unlock',
  structure: 'What decides over others',
  settings: 'Settings',
  measured: 'Measured on the motor',
  line: 'Of the line itself',
  lock: 'Lock again',
};

interface PhaseSteps {
  readonly phase: WriteStepView['phase'];
  readonly steps: WriteStepView[];
}

/** Neighbours of one phase together, in the order of the plan. */
function phasesOf(steps: readonly WriteStepView[]): readonly PhaseSteps[] {
  const phases: PhaseSteps[] = [];
  for (const step of steps) {
    const last = phases.at(-1);
    if (last?.phase === step.phase) last.steps.push(step);
    else phases.push({ phase: step.phase, steps: [step] });
  }
  return phases;
}

function StepRow({
  step,
  plan,
  dictionary,
}: {
  step: WriteStepView;
  plan: WritePlanView;
  dictionary: Dictionary;
}) {
  const idle = plan.idle.find(({ code }) => code === step.code);
  const parameter = findParameter(dictionary, step.code);
  const show = (reading: Reading | null) =>
    typeof reading === 'number' && parameter
      ? showRaw(parameter.form, reading)
      : reading
        ? '? unreadable'
        : 'not there';
  return (
    <tr className="h-9 border-b border-rule align-middle">
      <td className="font-mono">{step.code}</td>
      <td>{parameter?.name}</td>
      <td className="font-mono text-soft">{show(step.from)}</td>
      <td className="font-mono font-semibold">{show(step.to)}</td>
      <td className="text-sm text-soft">
        {whyText(step.reason)}
        {step.stopped && ', only while standing'}
        {step.restart && ', takes a restart'}
        {step.busyMs > 0 && `, takes ${step.busyMs / 1000} s`}
        {idle && <b className="text-ink"> Does nothing until {idle.by} says so.</b>}
      </td>
      <td className={step.state === 'failed' ? 'font-semibold text-stop' : ''}>
        <span className="whitespace-nowrap">{STATE_MARKS[step.state]}</span> {step.text}
      </td>
    </tr>
  );
}

function whyText(reason: WriteStepView['reason']): string {
  switch (reason.kind) {
    case 'asked':
      return 'asked for';
    case 'put-back-by':
      return `changed by the write of ${reason.by}`;
    case 'unlocks':
      return 'the unit is locked';
    case 'makes-way':
      return `for a while, so that ${reason.for} can be written`;
    case 'procedure':
      return reason.text;
  }
}
