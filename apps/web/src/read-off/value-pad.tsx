// Entering one value with gloves on: a number pad, a list of options, or one switch for each bit. Nothing that the drive
// cannot hold gets through; what is wrong is said in place.

import {
  describeRefusal,
  limitsOf,
  refusalOf,
  type Facts,
  type Parameter,
} from '@drive-keep/core/dictionary';
import { asTyped, formatRaw, forPeople, hasBit, parseRaw, showRaw } from '@drive-keep/core/values';
import { Delete } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/button.tsx';

const KEY =
  'grid h-14 place-items-center rounded border border-rule bg-sheet text-xl font-medium active:bg-plum-wash';

export function ValuePad({
  parameter,
  facts,
  present,
  usual,
  enter,
}: {
  parameter: Parameter;
  facts: Facts;
  /** What was entered before; nothing where nothing was. */
  present: number | undefined;
  /** The default: where typing begins, never taken for entered. */
  usual: number | undefined;
  enter: (raw: number) => void;
}) {
  const { form } = parameter;
  if (form.kind === 'option') {
    return (
      <div className="grid gap-2 sm:grid-cols-2">
        {form.options.map(({ raw, text }) => (
          <button
            key={raw}
            type="button"
            aria-pressed={present === raw}
            onClick={() => enter(raw)}
            className={`min-h-14 rounded border px-3 text-left ${present === raw ? 'border-plum bg-plum-wash font-semibold' : 'border-rule bg-sheet'}`}
          >
            <span className="mr-2 font-mono">{raw}</span> {text}
            {raw === usual && <span className="font-normal text-soft"> (default)</span>}
          </button>
        ))}
      </div>
    );
  }
  if (form.kind === 'bits')
    return <BitPad parameter={parameter} present={present ?? usual ?? 0} enter={enter} />;
  return <NumberPad parameter={parameter} facts={facts} present={present ?? usual} enter={enter} />;
}

function BitPad({
  parameter: { form },
  present,
  enter,
}: {
  parameter: Parameter;
  present: number;
  enter: (raw: number) => void;
}) {
  const [word, setWord] = useState(present);
  if (form.kind !== 'bits') return null;
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      {form.bits.map(({ bit, text }) => (
        <button
          key={bit}
          type="button"
          role="switch"
          aria-checked={hasBit(word, bit)}
          onClick={() => setWord((word ^ (1 << bit)) >>> 0)}
          className={`flex min-h-14 items-center gap-3 rounded border px-3 text-left ${hasBit(word, bit) ? 'border-plum bg-plum-wash font-semibold' : 'border-rule bg-sheet'}`}
        >
          <span className="font-mono">{hasBit(word, bit) ? '1' : '0'}</span>
          <span>
            <span className="text-soft">bit {bit}</span> {text}
          </span>
        </button>
      ))}
      <Button weight="main" className="min-h-14 justify-center sm:col-span-2" onClick={() => enter(word)}>
        Enter {showRaw(form, word).split(' ')[0]}
      </Button>
    </div>
  );
}

function NumberPad({
  parameter,
  facts,
  present,
  enter,
}: {
  parameter: Parameter;
  facts: Facts;
  present: number | undefined;
  enter: (raw: number) => void;
}) {
  const { form } = parameter;
  const [text, setText] = useState(present === undefined ? '' : forPeople(formatRaw(form, present)));
  const [wrong, setWrong] = useState('');
  const [fresh, setFresh] = useState(true);
  if (form.kind !== 'number') return null;
  const { minimum, maximum } = limitsOf(parameter, facts);
  const known = !parameter.untold.includes('minimum') && !parameter.untold.includes('maximum');
  const range =
    known && [minimum, maximum].every(Number.isFinite)
      ? `${showRaw(form, minimum)} to ${showRaw(form, maximum)}`
      : 'no range given';
  const press = (key: string) => {
    setWrong('');
    // The first key replaces what was there, as on every pocket calculator.
    setText((before) => (fresh ? key : before + key));
    setFresh(false);
  };
  const submit = () => {
    const raw = parseRaw(form, asTyped(text));
    if (!raw.ok) {
      const step = raw.fault.code === 'between-steps' ? ` Steps are ${raw.fault.step} ${form.unit}.` : '';
      return setWrong(`${text === '' ? 'Nothing' : text} is no value of ${parameter.code}.${step}`);
    }
    const refusal = refusalOf(parameter, raw.value, facts);
    if (refusal) return setWrong(describeRefusal(parameter, refusal));
    return enter(raw.value);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <div className="flex items-center gap-2">
        <input
          aria-label={`Value of ${parameter.code}`}
          aria-invalid={wrong !== ''}
          inputMode="none"
          autoComplete="off"
          value={text}
          onChange={({ target }) => {
            setText(target.value);
            setFresh(false);
            setWrong('');
          }}
          onFocus={({ target }) => target.select()}
          className="h-14 w-full min-w-0 rounded border border-rule bg-ground px-3 text-right font-mono text-2xl"
        />
        <span className="w-14 text-lg text-soft">{form.unit}</span>
      </div>
      <p
        className={`mt-1 min-h-6 text-sm ${wrong ? 'font-semibold text-stop' : 'text-soft'}`}
        role={wrong ? 'alert' : undefined}
      >
        {wrong || range}
      </p>
      <Keys
        press={press}
        erase={() => {
          setText(text.slice(0, -1));
          setFresh(false);
          setWrong('');
        }}
        turnSign={() => setText(text.startsWith('-') ? text.slice(1) : `-${text}`)}
      />
    </form>
  );
}

function Keys({
  press,
  erase,
  turnSign,
}: {
  press: (key: string) => void;
  erase: () => void;
  turnSign: () => void;
}) {
  return (
    <div className="mt-1 grid grid-cols-4 gap-2">
      {['7', '8', '9'].map((key) => (
        <Key key={key} name={key} press={press} />
      ))}
      <button type="button" aria-label="Delete the last digit" className={KEY} onClick={erase}>
        <Delete className="size-6" />
      </button>
      {['4', '5', '6'].map((key) => (
        <Key key={key} name={key} press={press} />
      ))}
      <button type="button" aria-label="Change the sign" className={KEY} onClick={turnSign}>
        ±
      </button>
      {['1', '2', '3'].map((key) => (
        <Key key={key} name={key} press={press} />
      ))}
      <Button type="submit" weight="main" className="row-span-2 h-auto justify-center text-lg">
        Enter
      </Button>
      <button type="button" className={`${KEY} col-span-2`} onClick={() => press('0')}>
        0
      </button>
      <Key name="." press={press} />
    </div>
  );
}

function Key({ name, press }: { name: string; press: (key: string) => void }) {
  return (
    <button type="button" className={KEY} onClick={() => press(name)}>
      {name}
    </button>
  );
}
