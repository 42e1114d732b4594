// Where every contact and signal of the duty goes, drawn and as a table in which another terminal can be chosen; what hangs there
// besides; and what every input and output does.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { WireMaker } from '@drive-keep/core/wiring';
import { OWN_WORDS, type DraftSheet, type PlacedRole } from '@drive-keep/core/start';
import { useState } from 'react';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { WiringDrawing } from '../wiring/wiring-drawing.tsx';
import { FieldRow as FunctionRow } from './field-row.tsx';
import { FieldsPart } from './sections.tsx';
import type { Typing } from './use-typing.ts';

export function TerminalsPart({
  dictionary,
  sheet,
  typing,
  ofPoint,
}: {
  dictionary: Dictionary;
  sheet: DraftSheet;
  typing: Typing;
  ofPoint: boolean;
}) {
  const { terminals: chart } = dictionary;
  const drawn = sheet.wiring.devices.length > 0;
  return (
    <FieldsPart
      section="terminals"
      sheet={sheet}
      typing={typing}
      only={(key) => !/^set\.(input|output|analog)\./.test(key)}
      after={<Functions sheet={sheet} typing={typing} />}
    >
      {chart && drawn ? (
        <WiringDrawing
          chart={chart}
          wiring={sheet.wiring}
          ends={sheet.roles.flatMap(({ role, terminal, could }) =>
            terminal ? [{ id: role.id, terminal: terminal.id, could }] : [],
          )}
          {...(typing.may && {
            move: (role: string, terminal: string) => typing.type({ [`terminal.${role}`]: terminal }),
          })}
        />
      ) : (
        <p className="pb-2 text-soft">
          {ofPoint
            ? 'Nothing of this duty can be wired on this model.'
            : 'A draft without a starting point has the wires of the set that it begins with; there are none.'}
        </p>
      )}
      {ofPoint && chart && <Board dictionary={dictionary} typing={typing} sheet={sheet} />}
      <Roles roles={sheet.roles} sheet={sheet} typing={typing} />
      {ofPoint && typing.may && <OwnDevice sheet={sheet} typing={typing} />}
    </FieldsPart>
  );
}

const typedIn = (typing: Typing, key: string): string =>
  typing.fields.find((each) => each.key === key)?.text ?? '';

/** How the contacts are fed, and what closes safe torque off. */
function Board({ dictionary, typing, sheet }: { dictionary: Dictionary; typing: Typing; sheet: DraftSheet }) {
  const chart = dictionary.terminals;
  const arrangements = chart ? WireMaker.arrangementsOf(chart) : [];
  const safe =
    chart?.strips.some(({ terminals }) => terminals.some(({ kind }) => kind === 'safe-input')) ?? false;
  const switches = Object.entries(sheet.wiring.switches);
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-2 py-2">
      {arrangements.length > 1 && (
        <Choice
          label="Contacts"
          disabled={!typing.may}
          value={
            typedIn(typing, 'set.arrangement') || (arrangements.find(({ factory }) => factory)?.name ?? '')
          }
          options={arrangements.map(({ name, how }) => ({ id: name, name: `${name}. ${how}` }))}
          onChange={({ target }) => typing.type({ 'set.arrangement': target.value })}
        />
      )}
      {safe && (
        <Choice
          label="Safe torque off"
          disabled={!typing.may}
          value={typedIn(typing, 'ask.sto') || 'link'}
          options={[
            { id: 'link', name: 'links stay: no safety circuit' },
            { id: 'relay', name: 'a safety relay on both channels' },
          ]}
          onChange={({ target }) => typing.type({ 'ask.sto': target.value })}
        />
      )}
      {switches.map(([name, place]) => (
        <span key={name} className="text-sm">
          Switch <b className="font-mono">{name}</b> to <b>{place}</b>
        </span>
      ))}
    </div>
  );
}

function Roles({
  roles,
  sheet,
  typing,
}: {
  roles: readonly PlacedRole[];
  sheet: DraftSheet;
  typing: Typing;
}) {
  if (roles.length === 0) return null;
  return (
    <table className="mt-1 w-full text-left text-sm">
      <thead className="border-b border-rule text-soft">
        <tr>
          <th className="py-1 pr-3 font-normal">Device</th>
          <th className="pr-3 font-normal">does at the drive</th>
          <th className="pr-3 font-normal">on terminal</th>
          <th className="font-normal" aria-label="Remarks" />
        </tr>
      </thead>
      <tbody>
        {roles.map(({ role, terminal, could, fault }) => {
          const [name = ''] = role.id.split(':');
          const device = sheet.wiring.devices.find((each) => each.name === name);
          const chosen = typedIn(typing, `terminal.${role.id}`);
          return (
            <tr
              key={role.id}
              className={`border-b border-rule align-top ${fault === null ? '' : 'bg-look-wash'}`}
            >
              <td className="py-1 pr-3">
                <b className="font-mono">{role.id}</b> {device?.what}
              </td>
              <td className="py-1 pr-3">{doesText(role)}</td>
              <td className="py-0.5 pr-3">
                <Choice
                  label={`Terminal of ${role.id}`}
                  hidden
                  disabled={!typing.may || could.length < 2}
                  value={chosen !== '' && could.includes(chosen) ? chosen : (terminal?.id ?? '')}
                  options={[
                    ...(terminal ? [] : [{ id: '', name: 'no place' }]),
                    ...could.map((id) => ({ id, name: id })),
                  ]}
                  onChange={({ target }) => typing.type({ [`terminal.${role.id}`]: target.value })}
                />
              </td>
              <td className="py-1 text-soft">
                {fault}
                {name in Object.fromEntries(ownDevices(typing)) && typing.may && (
                  <Button weight="quiet" onClick={() => typing.type({ [`device.${name}`]: '' })}>
                    Take {name} out
                  </Button>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const USES: Readonly<Record<string, string>> = {
  loop: 'actual value of the loop',
  speed: 'set-point',
  trim: 'trim',
};

function doesText({ does, on, opens }: PlacedRole['role']): string {
  const words = (USES[does] ?? does).replace(/[-.]/g, ' ');
  if (on === 'output') return `told by the drive: ${words}`;
  return opens ? `${words}, acts while open` : words;
}

const ownDevices = (typing: Typing): readonly (readonly [string, string])[] =>
  typing.fields.flatMap(({ key, text }) =>
    key.startsWith('device.') && text !== '' ? [[key.slice('device.'.length), text] as const] : [],
  );

/** A further contact that the starting point does not know. */
function OwnDevice({ sheet, typing }: { sheet: DraftSheet; typing: Typing }) {
  const [does, setDoes] = useState('');
  const [way, setWay] = useState('closes');
  const [stays, setStays] = useState('maintained');
  const functions = sheet.fields.find(({ key }) => /^set\.input\.\d+\.function$/.test(key))?.options ?? [];
  const used = new Set(sheet.wiring.devices.map(({ name }) => name));
  const free = Array.from({ length: 30 }, (_, at) => `S${at + 10}`).find((name) => !used.has(name)) ?? 'S99';
  if (functions.length === 0) return null;
  const words = [does, way, stays, way === 'opens' ? 'acts open' : 'acts closed'];
  return (
    <details className="py-1 text-sm">
      <summary className="cursor-pointer py-1 text-plum max-lg:min-h-12">Hang another contact there</summary>
      <div className="flex flex-wrap items-center gap-3 py-1">
        <Choice
          label="Does"
          value={does}
          options={[
            { id: '', name: 'choose …' },
            ...functions.filter(({ id }) => id !== 'none').map(({ id, text }) => ({ id, name: text })),
          ]}
          onChange={({ target }) => setDoes(target.value)}
        />
        <Choice
          label="Contact"
          value={way}
          options={[
            { id: 'closes', name: 'closes when worked' },
            { id: 'opens', name: 'opens when worked' },
          ]}
          onChange={({ target }) => setWay(target.value)}
        />
        <Choice
          label="and"
          value={stays}
          options={OWN_WORDS.filter((word) => word === 'maintained' || word === 'momentary').map((id) => ({
            id,
            name: id,
          }))}
          onChange={({ target }) => setStays(target.value)}
        />
        <Button
          disabled={does === ''}
          onClick={() => {
            typing.type({ [`device.${free}`]: words.join('; ') });
            setDoes('');
          }}
        >
          Hang it there as {free}
        </Button>
      </div>
    </details>
  );
}

/** What every input, output and signal does; another function may be chosen for each. */
function Functions({ sheet, typing }: { sheet: DraftSheet; typing: Typing }) {
  const fields = sheet.fields.filter(({ key }) => /^set\.(input|output|analog)\./.test(key));
  if (fields.length === 0) return null;
  const groups = new Map<string, typeof fields>();
  for (const field of fields) {
    const name = field.key.split('.').slice(1, 3).join(' ');
    groups.set(name, [...(groups.get(name) ?? []), field]);
  }
  return (
    <details className="mt-2 text-sm">
      <summary className="cursor-pointer py-1 max-lg:min-h-12">
        What every input, signal and output is set to <span className="text-soft">{groups.size}</span>
      </summary>
      {[...groups].map(([name, own]) => (
        <fieldset key={name} className="mt-1">
          <legend className="pt-1 font-medium">{name.charAt(0).toUpperCase() + name.slice(1)}</legend>
          {own.map((field) => (
            <FunctionRow key={field.key} field={field} typing={typing} />
          ))}
        </fieldset>
      ))}
    </details>
  );
}
