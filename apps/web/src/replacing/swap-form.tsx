// The new unit comes in: what its plate says, and where it answers.

import type { ReplacementView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import type { UseMutationResult } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useLines } from '../api/queries.ts';
import type { ProblemError } from '../api/client.ts';
import { AskOnce } from '../ui/ask-once.tsx';
import { Choice } from '../ui/choice.tsx';

const FIELD = 'h-11 rounded border border-rule bg-sheet px-2 font-mono max-lg:h-12';

export function SwapForm({
  view,
  fresh,
  rating,
  act,
}: {
  view: ReplacementView;
  fresh: Dictionary;
  rating: string;
  act: UseMutationResult<ReplacementView, ProblemError, { what: string; more?: object }>;
}) {
  const mayLine = fresh.line !== null;
  const [serial, setSerial] = useState('');
  const [firmware, setFirmware] = useState('');
  const [line, setLine] = useState(mayLine ? (view.old.line?.name ?? '') : '');
  const [address, setAddress] = useState(mayLine ? String(view.old.line?.address ?? '') : '');
  const number = Number(serial);
  const at = Number(address);
  const onLine = line !== '';
  const ready =
    Number.isInteger(number) &&
    number > 0 &&
    firmware.trim() !== '' &&
    (!onLine || (Number.isInteger(at) && at >= 1 && at <= 247));
  return (
    <>
      <p>
        {fresh.maker} {fresh.name} {rating} from now on. The old unit leaves the register and its sets stay
        {view.wiringRevision > 0 ? '; the wiring is kept with the new terminals.' : '.'}
      </p>
      {isOutside(firmware, fresh) && (
        <p role="alert" className="mt-2 border-l-4 border-look bg-look-wash px-2 py-1">
          The sheet is of the {fresh.name} with firmware {fresh.firmware.from} to {fresh.firmware.to}. Choose
          the version of firmware {firmware.trim()} above, or look at the plate again.
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Field name="Serial number, from its plate">
          <input
            className={`${FIELD} w-36`}
            inputMode="numeric"
            value={serial}
            onChange={({ target }) => setSerial(target.value.replace(/\D/g, ''))}
          />
        </Field>
        <Field name="Firmware">
          <input
            className={`${FIELD} w-24`}
            maxLength={20}
            placeholder={fresh.firmware.from}
            value={firmware}
            onChange={({ target }) => setFirmware(target.value)}
          />
        </Field>
        {mayLine && <LineFields line={line} setLine={setLine} address={address} setAddress={setAddress} />}
        <AskOnce
          what="The new unit is in"
          question={`Does ${fresh.name} serial ${serial} sit at ${view.tag}?`}
          note={`${view.old.model} serial ${view.old.serial} goes out of the register. Until the sheet is closed it can be put back.`}
          yes="It sits there"
          disabled={!ready || act.isPending}
          confirm={() =>
            act.mutate({
              what: 'swap',
              more: {
                ...{ serial: number, firmware: firmware.trim() },
                ...(onLine ? { line, lineAddress: at } : {}),
              },
            })
          }
        />
      </div>
    </>
  );
}

/** Another firmware has other parameters; what is no number is told by nobody. */
function isOutside(text: string, { firmware: { from, to } }: Dictionary): boolean {
  const [own, least, most] = [text.trim(), from, to].map(Number);
  if (text.trim() === '' || own === undefined || least === undefined || most === undefined) return false;
  return own < least || own > most;
}

function LineFields({
  line,
  setLine,
  address,
  setAddress,
}: {
  line: string;
  setLine: (name: string) => void;
  address: string;
  setAddress: (address: string) => void;
}) {
  const { data: lines } = useLines();
  const used = (lines ?? []).filter(({ retiredAt }) => retiredAt === null);
  return (
    <>
      <Choice
        below
        label="Line"
        value={line}
        options={[{ id: '', name: 'none: keypad only' }, ...used.map(({ name }) => ({ id: name, name }))]}
        onChange={({ target }) => setLine(target.value)}
      />
      {line !== '' && (
        <Field name="Address">
          <input
            className={`${FIELD} w-20`}
            inputMode="numeric"
            value={address}
            onChange={({ target }) => setAddress(target.value.replace(/\D/g, ''))}
          />
        </Field>
      )}
    </>
  );
}

const Field = ({ name, children }: { name: string; children: ReactNode }) => (
  <label className="block text-sm">
    <span className="mb-1 block font-medium">{name}</span>
    {children}
  </label>
);
