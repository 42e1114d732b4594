// The signal calculator: what is measured, what the sender gives, what a meter reads, what the drive makes of it. Any of them may
// be typed, and the others follow. From a position with its own wiring and set, or free.

import { signalsOf, type PositionSignal } from '@drive-keep/core/checks';
import {
  broken,
  pointAt,
  shareOf,
  SIGNAL_RANGES,
  type AnalogSignal,
  type ScalingFault,
  type SignalField,
  type SignalPoint,
  type SignalScaling,
} from '@drive-keep/core/signals';
import { useId } from 'react';
import { Link } from 'react-router';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { NumberField, readTyped, shownOf, typedOf } from './number-field.tsx';
import { SignalCases } from './signal-cases.tsx';
import { SignalCurve } from './signal-curve.tsx';
import { useGround } from './use-ground.ts';
import { useTypedAddress, type ChangeAddress } from './use-typed-address.ts';

const SIGNAL_NAMES: Readonly<Record<AnalogSignal, string>> = {
  '0-10-v': '0 to 10 V',
  '2-10-v': '2 to 10 V',
  '0-20-ma': '0 to 20 mA',
  '4-20-ma': '4 to 20 mA',
  'bipolar-10-v': '−10 to 10 V',
};
const isSignal = (text: string | null): text is AnalogSignal =>
  text !== null && Object.hasOwn(SIGNAL_NAMES, text);

const FAULTS: Readonly<Record<ScalingFault, string>> = {
  'voltage-into-current':
    'A voltage goes into an input that is set to read a current: nothing that can be told comes of it. Set the input and its board switch to a voltage.',
  'no-shunt':
    'A current goes into an input that is set to read a voltage. With a resistor across the input it becomes one: type its ohms.',
  flat: 'Both ends are the same: there is no way back from this number.',
  'out-of-reach': 'No signal gives this number here.',
};

export function SignalCalculatorPage() {
  const [params, change] = useTypedAddress();
  const tag = params.get('position') ?? '';
  const { ground, title, error } = useGround(tag, params.get('set') ?? 'newest');
  const signals = ground ? signalsOf(ground) : [];
  const used = signals.find(({ uses }) => uses.length > 0);
  const chosen = signals.find(({ number }) => number === params.get('input')) ?? used ?? signals[0];
  return (
    <Page title="Signal calculator">
      <div className="mb-3 flex flex-wrap items-end gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Signal calculator</h1>
        <span className="contents print:hidden">
          <PositionField
            label="with the wiring and set of"
            tag={tag}
            choose={(position) => change({ ...NOTHING_TYPED, position, input: '' })}
          />
          {signals.length > 0 && (
            <Choice
              label="Input"
              value={chosen?.number ?? ''}
              onChange={({ target }) => change({ ...NOTHING_TYPED, input: target.value })}
              options={signals.map(({ number, terminal, uses }) => ({
                id: number,
                name: `${number} at ${terminal}${uses.length > 0 ? `, ${uses.join(', ')}` : ', not used'}`,
              }))}
            />
          )}
          <span className="ml-auto">
            <Button onClick={() => window.print()}>Print</Button>
          </span>
        </span>
      </div>
      {tag !== '' && !ground && <Unanswered error={error} what={`the signals of ${tag}`} />}
      {ground && !chosen && (
        <Nothing>This model has no analog input, or its set does not tell the signal.</Nothing>
      )}
      {ground && chosen && <Told tag={tag} title={title} signal={chosen} />}
      {(tag === '' || chosen) && <Calculator {...{ params, change }} told={chosen} />}
    </Page>
  );
}

function Told({ tag, title, signal }: { tag: string; title: string; signal: PositionSignal }) {
  return (
    <p className="mt-1 mb-3 text-soft">
      {signal.sender === null
        ? 'No wiring tells what sends this signal: it is taken to send what the drive reads.'
        : `${signal.sender} sends it.`}{' '}
      {title}
      {signal.how !== '' && `: ${signal.how}`}.{' '}
      {signal.codes.map((code) => (
        <Link
          key={code}
          to={`/positions/${tag}/parameters/${encodeURIComponent(code)}`}
          className="mr-2 font-mono text-plum hover:underline"
        >
          {code}
        </Link>
      ))}
    </p>
  );
}

interface CalculatorProps {
  readonly params: URLSearchParams;
  readonly change: ChangeAddress;
  readonly told: PositionSignal | undefined;
}

const FREE: SignalScaling = {
  ...{ sent: '4-20-ma', read: '4-20-ma', range: { low: 0, high: 100, unit: '%' }, shuntOhm: 250 },
  ...{ rawPerPercent: 10, loop: null, lostBelow: null, limits: null },
  curve: [
    { signal: 0, value: 0 },
    { signal: 1, value: 50 },
  ],
};

function Calculator({ params, change, told }: CalculatorProps) {
  const base = told?.scaling ?? FREE;
  const scaling = typedScaling(base, params);
  const asked = askedOf(params);
  const share =
    asked.value === undefined
      ? { ok: true as const, value: 0.5 }
      : shareOf(scaling, asked.field, asked.value);
  const point = share.ok ? pointAt(scaling, share.value) : share;
  const number = (name: string, label: string, unit: string, from: number | null | undefined) => {
    const typed = params.get(name);
    return (
      <NumberField
        {...{ label, unit }}
        value={typed ?? typedOf(from)}
        fault={typed === null ? '' : readTyped(typed).fault}
        changed={typed !== null && told !== undefined}
        change={(text) => change({ [name]: text })}
      />
    );
  };
  const { range, curve, limits } = base;
  return (
    <>
      <SheetPart name="The way" state="sender to drive">
        <div className="flex flex-wrap gap-x-5 gap-y-2">
          <Signal label="Sender gives" value={scaling.sent} change={(sent) => change({ sent })} />
          {number('low', 'Measures, start', range.unit, range.low)}
          {number('high', 'Measures, end', range.unit, range.high)}
          {number('shunt', 'Across', 'Ω', base.shuntOhm)}
          <Signal label="Drive reads" value={scaling.read} change={(read) => change({ read })} />
          {curve && number('start', 'Asks for, start', 'Hz', curve[0]?.value)}
          {curve && number('end', 'Asks for, end', 'Hz', curve.at(-1)?.value)}
          {curve && number('minimum', 'Minimum', 'Hz', limits?.minimum)}
          {curve && number('maximum', 'Maximum', 'Hz', limits?.maximum)}
        </div>
      </SheetPart>
      <SheetPart name="At one value" state="type into any of them">
        <Fields {...{ scaling, asked, change }} point={point.ok ? point.value : undefined} />
        {!point.ok && (
          <div className="mt-2">
            <Notice level="look">{FAULTS[point.fault]}</Notice>
          </div>
        )}
      </SheetPart>
      <SheetPart name="The curve" state={scaling.loop ? 'actual value' : 'speed'}>
        <SignalCurve scaling={scaling} share={point.ok ? point.value.share : null} />
      </SheetPart>
      <SheetPart name="At the multimeter" state="what should be there">
        <SignalCases
          scaling={scaling}
          setPoints={told?.setPoints ?? []}
          lost={lostText(broken(scaling), told)}
        />
      </SheetPart>
    </>
  );
}

function Signal({
  label,
  value,
  change,
}: {
  label: string;
  value: AnalogSignal;
  change: (signal: string) => void;
}) {
  const id = useId();
  return (
    <div className="flex flex-col gap-0.5">
      <label htmlFor={id} className="text-sm text-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        onChange={({ target }) => change(target.value)}
        className="h-9 rounded border border-rule bg-sheet px-2 max-lg:h-12"
      >
        {Object.entries(SIGNAL_NAMES).map(([each, name]) => (
          <option key={each} value={each}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}

/** What is typed takes the place of what came along. */
function typedScaling(base: SignalScaling, params: URLSearchParams): SignalScaling {
  const typed = (name: string): number | undefined => readTyped(params.get(name) ?? '').value;
  const [sent, read] = [params.get('sent'), params.get('read')];
  const [minimum, maximum] = [
    typed('minimum') ?? base.limits?.minimum,
    typed('maximum') ?? base.limits?.maximum,
  ];
  const [start, end] = [typed('start'), typed('end')];
  const straight = base.curve && (start !== undefined || end !== undefined);
  return {
    ...base,
    sent: isSignal(sent) ? sent : base.sent,
    read: isSignal(read) ? read : base.read,
    range: { ...base.range, low: typed('low') ?? base.range.low, high: typed('high') ?? base.range.high },
    shuntOhm: typed('shunt') ?? base.shuntOhm,
    curve: straight
      ? [
          { signal: 0, value: start ?? base.curve?.[0]?.value ?? 0 },
          { signal: 1, value: end ?? base.curve?.at(-1)?.value ?? 0 },
        ]
      : base.curve,
    limits: minimum === undefined || maximum === undefined ? null : { minimum, maximum },
  };
}

interface Asked {
  readonly field: SignalField;
  readonly text: string;
  readonly value: number | undefined;
  readonly fault: string;
}

const FIELDS = ['process', 'percent', 'sent', 'shunt', 'atInput', 'seen', 'raw', 'hertz', 'actual'] as const;

/** With another signal, what was typed over the one before is gone. */
const NOTHING_TYPED = Object.fromEntries(
  [
    ...['sent', 'read', 'low', 'high', 'shunt', 'start', 'end', 'minimum', 'maximum'],
    ...FIELDS.map((field) => `is-${field}`),
  ].map((name) => [name, '']),
);

function askedOf(params: URLSearchParams): Asked {
  const field = FIELDS.find((each) => params.has(`is-${each}`));
  const text = field === undefined ? '' : (params.get(`is-${field}`) ?? '');
  return { field: field ?? 'percent', text, ...readTyped(text) };
}

function Fields({
  scaling,
  asked,
  change,
  point,
}: {
  scaling: SignalScaling;
  asked: Asked;
  change: CalculatorProps['change'];
  point: SignalPoint | undefined;
}) {
  const { sent, read, range, shuntOhm, curve, loop } = scaling;
  const about: readonly (readonly [SignalField, string, string, boolean])[] = [
    ['process', 'Measured', range.unit, true],
    ['percent', 'Of its range', '%', true],
    ['sent', 'Sender gives', SIGNAL_RANGES[sent].unit, true],
    ['shunt', `Across ${typedOf(shuntOhm)} Ω`, 'V', SIGNAL_RANGES[sent].unit === 'mA' && shuntOhm !== null],
    [
      'atInput',
      'At the input',
      SIGNAL_RANGES[read].unit,
      SIGNAL_RANGES[sent].unit !== SIGNAL_RANGES[read].unit,
    ],
    ['seen', 'Drive sees', '%', true],
    ['raw', 'As raw value', '', true],
    ['hertz', 'Asks for', 'Hz', curve !== null],
    ['actual', 'Actual value', '% of the loop', loop !== null],
  ];
  const clear = Object.fromEntries(FIELDS.map((each) => [`is-${each}`, '']));
  const shown = (field: SignalField): string => {
    if (asked.field === field && asked.text !== '') return asked.text;
    if (!point) return '';
    return typedOf(field === 'percent' ? point.share * 100 : point[field]);
  };
  return (
    <>
      <div className="flex flex-wrap gap-x-5 gap-y-2">
        {about
          .filter(([, , , there]) => there)
          .map(([field, label, unit]) => (
            <NumberField
              key={field}
              {...{ label, unit }}
              value={shown(field)}
              fault={asked.field === field ? asked.fault : ''}
              change={(text) => change({ ...clear, [`is-${field}`]: text })}
            />
          ))}
      </div>
      {point?.limited && (
        <p className="mt-2 text-sm">
          The {point.limited} frequency holds it at {shownOf(point.hertz ?? 0)} Hz.
        </p>
      )}
      {point?.lost && <p className="mt-2 text-sm">The drive takes the signal for lost here.</p>}
    </>
  );
}

const LOSSES: Readonly<Record<string, string>> = {
  ignore: 'goes on with it as with a signal',
  fault: 'trips',
  hold: 'keeps its last speed',
  'preset-1': 'goes to preset 1',
};

/** What the drive does with a broken wire. */
function lostText(none: ReturnType<typeof broken>, told: PositionSignal | undefined): string {
  if (!none.ok) return '';
  if (!none.value.lost) return 'the drive cannot tell it from a signal';
  return told
    ? `the drive takes it for lost and ${LOSSES[told.loss] ?? told.loss}`
    : 'the drive takes it for lost';
}
