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
    return <p>Nothing to write: the unit holds all these values already, or cannot take them.</p>;
  return (
    <table className="w-full text-left">
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
      <tbody>
        {plan.steps.map((step) => (
          <StepRow key={step.code + step.phase} step={step} dictionary={dictionary} />
        ))}
      </tbody>
    </table>
  );
}

function StepRow({ step, dictionary }: { step: WriteStepView; dictionary: Dictionary }) {
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
      </td>
      <td className={step.state === 'failed' ? 'font-semibold text-stop' : ''}>
        {STATE_MARKS[step.state]} {step.text}
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
