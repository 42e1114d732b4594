// One field for everything: tags, duties, serial numbers, parameter codes and words. Ctrl K opens it.

import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { useFaultLookUp, useLookUp, usePositionSearch } from '../api/queries.ts';
import { Asking, Nothing } from '../ui/answer.tsx';

interface Hit {
  readonly key: string;
  readonly to: string;
  readonly head: string;
  readonly text: string;
}

const MOST_HITS = 12;
/** So that a common word leaves room for parameters. */
const MOST_POSITIONS = 6;
const MOST_FAULTS = 3;

export function Search() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="flex h-9 items-center gap-6 rounded border border-rule bg-ground px-3 text-sm text-soft max-lg:h-12">
        Find<span className="-ml-5 max-md:sr-only">anything</span>{' '}
        <kbd className="font-mono text-xs max-md:hidden">Ctrl K</kbd>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 w-[min(40rem,94vw)] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-3 shadow-lg"
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          <SearchBox close={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function SearchBox({ close }: { close: () => void }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const { hits, answered } = useHits(text);
  const navigate = useNavigate();
  const list = useRef<HTMLUListElement>(null);
  const go = (hit: Hit | undefined) => {
    if (!hit) return;
    close();
    void navigate(hit.to);
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt((before) => Math.min(before + 1, hits.length - 1));
    else if (event.key === 'ArrowUp') setAt((before) => Math.max(before - 1, 0));
    else if (event.key === 'Enter') go(hits[at]);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <input
        autoFocus
        aria-label="Find anything"
        placeholder="Tag, serial number, parameter code or word"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
        className="h-11 w-full rounded border border-rule bg-ground px-3"
      />
      <ul ref={list} className="mt-2">
        {hits.map((hit, index) => (
          <li key={hit.key}>
            <button
              type="button"
              onClick={() => go(hit)}
              className={`flex w-full gap-3 rounded px-3 py-2 text-left ${index === at ? 'bg-plum-wash' : ''}`}
            >
              <span className="w-28 shrink-0 font-mono">{hit.head}</span>
              <span>{hit.text}</span>
            </button>
          </li>
        ))}
      </ul>
      {text.trim() !== '' && !answered && <Asking what={`“${text.trim()}”`} />}
      {text.trim() !== '' && answered && hits.length === 0 && <Nothing>Nothing has “{text}” in it.</Nothing>}
    </>
  );
}

/** Positions by tag, duty and serial number; faults and parameters of all models as the look-up ranks them. */
function useHits(text: string): { readonly hits: readonly Hit[]; readonly answered: boolean } {
  const { data: register, isPlaceholderData: olderPositions } = usePositionSearch(text);
  const { data: found, isPlaceholderData: olderParameters } = useLookUp(text);
  const { data: faults, isPlaceholderData: olderFaults } = useFaultLookUp(text);
  const answered =
    register !== undefined &&
    found !== undefined &&
    faults !== undefined &&
    !olderPositions &&
    !olderParameters &&
    !olderFaults;
  const hits = useMemo(() => {
    if (text.trim() === '') return [];
    const positions = (register?.positions ?? []).slice(0, MOST_POSITIONS).map(({ tag, duty, unit }) => ({
      key: tag,
      to: `/positions/${tag}`,
      head: tag,
      text: `${duty} · serial ${unit.serial}`,
    }));
    const parameters = (found ?? []).map(({ dictionary, model, parameter }) => ({
      key: `${dictionary} ${parameter.code}`,
      to: `/models/${dictionary}?find=${encodeURIComponent(parameter.code)}`,
      head: parameter.code,
      text: `${parameter.name} · ${model}`,
    }));
    const stops = (faults ?? []).slice(0, MOST_FAULTS).map(({ dictionary, model, fault }) => ({
      key: `${dictionary} fault ${fault.number}`,
      to: `/models/${dictionary}?part=faults&find=${encodeURIComponent(fault.shown)}`,
      head: `fault ${fault.shown}`,
      text: `${fault.name} · ${model}`,
    }));
    const exact = parameters.some(({ head }) => head.toLowerCase() === text.trim().toLowerCase());
    const others = [...positions, ...stops];
    return (exact ? [...parameters, ...others] : [...others, ...parameters]).slice(0, MOST_HITS);
  }, [text, register, found, faults]);
  return { hits, answered };
}
