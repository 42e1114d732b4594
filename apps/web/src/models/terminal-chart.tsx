// The terminals as they stand on the board, with links, and as a table with both numberings: that of the connector and
// that of the drive's own user program.

import {
  defaultOf,
  type Code,
  findParameter,
  type Dictionary,
  type Facts,
  type Terminal,
  type SwitchPlace,
  type TerminalChart,
  type TerminalLink,
  type TerminalStrip,
} from '@drive-keep/core/dictionary';
import { describeRaw } from '@drive-keep/core/values';
import {
  Activity,
  AudioWaveform,
  Disc,
  LogIn,
  LogOut,
  Minus,
  Network,
  Plus,
  RotateCw,
  ShieldCheck,
  Thermometer,
  ToggleRight,
  Zap,
  type LucideIcon,
} from 'lucide-react';
import { Link } from 'react-router';

interface Shown {
  readonly dictionary: Dictionary;
  readonly facts: Facts;
}

export function TerminalCharts({ chart, ...shown }: Shown & { chart: TerminalChart }) {
  return (
    <>
      {chart.strips.map((strip) => (
        <StripDrawing key={strip.name} strip={strip} links={chart.links} {...shown} />
      ))}
      <Board chart={chart} dictionary={shown.dictionary} />
      <TerminalTable chart={chart} {...shown} />
    </>
  );
}

const SHAPES: Readonly<Record<Terminal['kind'], LucideIcon>> = {
  'digital-input': LogIn,
  'analog-input': Activity,
  'digital-output': LogOut,
  relay: ToggleRight,
  'analog-output': AudioWaveform,
  'safe-input': ShieldCheck,
  supply: Plus,
  common: Minus,
  power: Zap,
  brake: Disc,
  sensor: Thermometer,
  feedback: RotateCw,
  network: Network,
};

const KIND_NAMES: Readonly<Record<Terminal['kind'], string>> = {
  'digital-input': 'digital input',
  'analog-input': 'analog input',
  'digital-output': 'digital output',
  relay: 'relay',
  'analog-output': 'analog output',
  'safe-input': 'safe input',
  supply: 'supply',
  common: 'common',
  power: 'power',
  brake: 'brake',
  sensor: 'sensor',
  feedback: 'feedback',
  network: 'network',
};

/** Terminals side by side that a phone has room for. */
const ON_A_PHONE = 4;

/** As it is on the board; on a phone in pieces below each other, where nothing has to be pushed aside to be seen. */
function StripDrawing({
  strip: { name, terminals },
  ...shown
}: Shown & { strip: TerminalStrip; links: readonly TerminalLink[] }) {
  const pieces = Array.from({ length: Math.ceil(terminals.length / ON_A_PHONE) }, (_, at) =>
    terminals.slice(at * ON_A_PHONE, (at + 1) * ON_A_PHONE),
  );
  return (
    <section className="mt-4">
      <h2 className="font-semibold">{name}</h2>
      <div className="mt-1 overflow-x-auto pb-2 max-md:hidden">
        <StripPiece terminals={terminals} {...shown} />
      </div>
      <div className="mt-1 space-y-2 md:hidden">
        {pieces.map((piece) => (
          <StripPiece key={piece[0]?.id} terminals={piece} {...shown} />
        ))}
      </div>
    </section>
  );
}

/** Links to a terminal of another piece are told below, with all links. */
function StripPiece({
  terminals,
  links,
  ...shown
}: Shown & { terminals: readonly Terminal[]; links: readonly TerminalLink[] }) {
  const places = new Map(terminals.map(({ id }, at) => [id, at + 1]));
  const own = links.filter(({ between }) => between.every((id) => places.has(id)));
  return (
    <div
      className="grid w-max gap-y-0.5"
      style={{ gridTemplateColumns: `repeat(${terminals.length}, 5.4rem)` }}
    >
      {terminals.map((terminal, at) => (
        <DrawnTerminal key={terminal.id} terminal={terminal} column={at + 1} {...shown} />
      ))}
      {own.map((link, at) => (
        <DrawnLink
          key={link.between.join()}
          link={link}
          row={at + 2}
          columns={link.between.map((id) => places.get(id) ?? 1)}
        />
      ))}
    </div>
  );
}

function DrawnTerminal({ terminal, column, ...shown }: Shown & { terminal: Terminal; column: number }) {
  const Shape = SHAPES[terminal.kind];
  return (
    <div
      className="flex flex-col items-center border-y border-r border-rule bg-sheet first:border-l"
      style={{ gridColumn: column, gridRow: 1 }}
      title={`${terminal.id}: ${KIND_NAMES[terminal.kind]}${terminal.signal && `, ${terminal.signal}`}`}
    >
      <span className="flex h-16 items-center px-1 text-center text-xs leading-tight">
        {purposeOf(terminal, shown)}
      </span>
      <span
        aria-hidden="true"
        className={`grid size-8 place-items-center rounded-full border-2 ${terminal.kind === 'safe-input' ? 'border-stop' : 'border-ink'}`}
      >
        <Shape className="size-4" />
      </span>
      <span className="font-mono text-lg font-bold">{terminal.id}</span>
      <span className="h-8 px-1 text-center text-xs leading-tight text-soft">{terminal.name}</span>
      {terminal.program && <span className="pb-1 font-mono text-xs text-plum">{terminal.program}</span>}
    </div>
  );
}

/** A bracket from the middle of one terminal to the middle of the other. */
function DrawnLink({ link, row, columns }: { link: TerminalLink; row: number; columns: readonly number[] }) {
  const [from, to] = [Math.min(...columns), Math.max(...columns)];
  return (
    <div
      className="px-[2.7rem] text-center text-xs"
      style={{ gridRow: row, gridColumn: `${from} / ${to + 1}` }}
      title={link.why}
    >
      <div
        className={`h-2.5 rounded-b border-x-2 border-b-2 border-plum ${link.factory ? '' : 'border-dashed'}`}
      />
      <span className="-mx-8 block text-soft">{link.factory ? 'link' : 'link, if wanted'}</span>
    </div>
  );
}

/** What the terminal does as delivered. */
function purposeOf(terminal: Terminal, { dictionary, facts }: Shown): string {
  const parameter = terminal.setBy ? findParameter(dictionary, terminal.setBy) : undefined;
  const raw = parameter && defaultOf(parameter, facts);
  if (!parameter || raw === undefined) return terminal.does;
  return describeRaw(parameter.form, raw) ?? terminal.does;
}

function Board({ chart, dictionary }: { chart: TerminalChart; dictionary: Dictionary }) {
  return (
    <div className="mt-4 grid gap-x-8 gap-y-4 lg:grid-cols-3">
      <Told title="How the contacts are fed">
        {chart.arrangements.map(({ name, factory, how }) => (
          <li key={name}>
            <b>{name}</b>
            {factory && ' (as delivered)'}: {how}
          </li>
        ))}
      </Told>
      {chart.links.length > 0 && (
        <Told title="Links">
          {chart.links.map(({ between, factory, why }) => (
            <li key={between.join()}>
              <b className="font-mono">{between.join(' – ')}</b>{' '}
              {factory ? '(as delivered)' : '(not as delivered)'}: {why}
            </li>
          ))}
        </Told>
      )}
      {chart.switches.length > 0 && (
        <Told title="Switches on the board">
          {chart.switches.map(({ id, name, places, factory, agreesWith }) => (
            <li key={id}>
              <b className="font-mono">{id}</b> {name}:{' '}
              {places.map((place) => placeText(place, dictionary, agreesWith)).join(' · ')}. As delivered{' '}
              {factory}.
              {agreesWith && (
                <>
                  {' '}
                  Must agree with <CodeLink dictionary={dictionary} code={agreesWith} />.
                </>
              )}
            </li>
          ))}
        </Told>
      )}
    </div>
  );
}

/** A place with the options that it agrees with, or the arrangement that it makes. */
function placeText(
  { name, does, agrees, makes }: SwitchPlace,
  dictionary: Dictionary,
  code: Code | null,
): string {
  const form = code ? findParameter(dictionary, code)?.form : undefined;
  const options = (agrees ?? []).flatMap((raw) => (form ? (describeRaw(form, raw) ?? []) : []));
  const goes = options.length > 0 ? `with ${options.join(' or ')}` : (makes ?? []).join(' or ').toLowerCase();
  return `${name} ${does}${goes === '' ? '' : ` (${goes})`}`;
}

const Told = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <section>
    <h2 className="font-semibold">{title}</h2>
    <ul className="space-y-1 text-sm">{children}</ul>
  </section>
);

function CodeLink({ dictionary, code }: { dictionary: Dictionary; code: string }) {
  return (
    <Link
      to={`/models/${dictionary.id}?find=${encodeURIComponent(code)}`}
      className="font-mono text-plum hover:underline"
      title={findParameter(dictionary, code)?.name}
    >
      {code}
    </Link>
  );
}

function TerminalTable({ chart, ...shown }: Shown & { chart: TerminalChart }) {
  const { dictionary } = shown;
  const terminals = chart.strips.flatMap(({ terminals: each }) => each);
  const withProgram = terminals.some(({ program }) => program !== null);
  return (
    <section className="mt-5 overflow-x-auto">
      <h2 className="font-semibold">All terminals</h2>
      <table className="mt-1 w-full text-left text-sm">
        <thead className="border-b border-rule text-soft">
          <tr className="[&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
            <th>Terminal</th>
            <th>Kind</th>
            <th>Signal</th>
            <th>As delivered</th>
            <th>Set by</th>
            <th>Sense</th>
            <th>Filter</th>
            {withProgram && <th>In the user program</th>}
            {withProgram && <th>Belongs to</th>}
          </tr>
        </thead>
        <tbody>
          {terminals.map((terminal, at) => (
            <tr
              key={`${terminal.id} ${at}`}
              className="border-b border-rule align-baseline [&>td]:py-1 [&>td]:pr-3"
            >
              <td>
                <span className="font-mono font-semibold">{terminal.id}</span> {terminal.name}
              </td>
              <td>
                {KIND_NAMES[terminal.kind]}
                {terminal.contact && ` ${terminal.contact.relay}, ${terminal.contact.side}`}
              </td>
              <td>{signalText(terminal)}</td>
              <td>{purposeOf(terminal, shown)}</td>
              <td>{terminal.setBy && <CodeLink dictionary={dictionary} code={terminal.setBy} />}</td>
              <td>
                {terminal.sense && (
                  <>
                    <CodeLink dictionary={dictionary} code={terminal.sense.code} />
                    {terminal.sense.bit !== null && ` bit ${terminal.sense.bit}`}
                  </>
                )}
              </td>
              <td>{terminal.filter && <CodeLink dictionary={dictionary} code={terminal.filter} />}</td>
              {withProgram && <td className="font-mono">{terminal.program}</td>}
              {withProgram && <td>{ownerText(terminal)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function ownerText({ owner, ownedBy, program }: Terminal): string {
  if (owner === 'chosen' && ownedBy) return `drive, or program by ${ownedBy.code} bit ${ownedBy.bit}`;
  return program === null ? '' : owner;
}

/** With what the device at the other end has to know: loads and burdens, and to which side an output switches. */
function signalText({ signal, logic, burdenOhm, leastOhm, mostOhm }: Terminal): string {
  const more = [
    burdenOhm !== null && !signal.includes(`${burdenOhm} Ω`) && `burden ${burdenOhm} Ω`,
    leastOhm !== null && `load of at least ${leastOhm} Ω`,
    mostOhm !== null && `${leastOhm === null ? 'load of' : 'with a current'} at most ${mostOhm} Ω`,
    logic === 'sinking' && 'takes its load to zero',
    logic === 'sourcing' && 'gives plus to its load',
  ];
  return [signal, ...more].filter((each) => each !== false && each !== '').join('; ');
}
