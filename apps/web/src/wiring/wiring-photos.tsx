// Photographs beside the wiring: added at the cabinet with a phone, looked at when somebody has to wire it again.

import type { WiringPhotoView } from '@drive-keep/api';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { useWiringPhotos } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

type Photos = readonly WiringPhotoView[];

const FIELD = 'min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12';

export function WiringPhotos({ tag, mayWrite }: { tag: string; mayWrite: boolean }) {
  const { data: photos, error } = useWiringPhotos(tag);
  const known = photos ? String(photos.length) : '';
  return (
    <SheetPart name="Photographs" state={known}>
      {photos ? (
        <ul className="flex flex-wrap gap-4">
          {photos.map((photo) => (
            <Photo key={photo.id} tag={tag} photo={photo} mayWrite={mayWrite} />
          ))}
        </ul>
      ) : (
        <Unanswered error={error} what="the photographs" />
      )}
      {photos?.length === 0 && <p className="text-soft">None was added yet.</p>}
      {mayWrite && <Adding tag={tag} />}
    </SheetPart>
  );
}

function useKept(tag: string): (photos: Photos) => void {
  const queries = useQueryClient();
  return (photos) => queries.setQueryData([`positions/${tag}/wiring/photos`], photos);
}

function Photo({ tag, photo, mayWrite }: { tag: string; photo: WiringPhotoView; mayWrite: boolean }) {
  const { id, caption, width, height, addedAt, addedBy, revision } = photo;
  const [why, setWhy] = useState<string>();
  const kept = useKept(tag);
  const withdraw = useMutation<Photos, ProblemError>({
    mutationFn: () => post(`positions/${tag}/wiring/photos/${id}/withdraw`, { why }),
    onSuccess: kept,
  });
  const href = `/api/positions/${tag}/wiring/photos/${id}`;
  return (
    <li className="w-72 max-w-full">
      <a href={href} target="_blank" rel="noreferrer">
        <img
          src={href}
          alt={caption}
          width={width}
          height={height}
          loading="lazy"
          className="h-48 w-full rounded border border-rule bg-ground object-contain"
        />
      </a>
      <p className="break-words font-semibold">{caption}</p>
      <p className="text-sm text-soft">
        {showTime(addedAt)}, {addedBy}
        {revision > 0 && `, at wiring revision ${revision}`}
      </p>
      {mayWrite && why === undefined && <Button onClick={() => setWhy('')}>Withdraw</Button>}
      {why !== undefined && (
        <form
          className="flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (why.trim() !== '' && !withdraw.isPending) withdraw.mutate();
          }}
        >
          <input
            autoFocus
            aria-label={`Why ${caption} is withdrawn`}
            placeholder="Why it is no longer shown"
            value={why}
            maxLength={300}
            className={`${FIELD} w-full`}
            onChange={({ target }) => setWhy(target.value)}
          />
          <Button type="submit" disabled={why.trim() === '' || withdraw.isPending}>
            Withdraw it
          </Button>
          <Button onClick={() => setWhy(undefined)}>Leave it</Button>
        </form>
      )}
      {withdraw.error && <ProblemNotice error={withdraw.error} />}
    </li>
  );
}

function Adding({ tag }: { tag: string }) {
  const chosen = useRef<HTMLInputElement>(null);
  const [caption, setCaption] = useState('');
  const kept = useKept(tag);
  const add = useMutation<Photos, ProblemError, File>({
    mutationFn: (file) => {
      const form = new FormData();
      form.set('file', file);
      form.set('caption', caption);
      return post(`positions/${tag}/wiring/photos`, form);
    },
    onSuccess: (photos) => {
      setCaption('');
      kept(photos);
    },
  });
  return (
    <div className="mt-3 flex flex-wrap items-end gap-3">
      <label className="flex min-w-72 flex-1 flex-col gap-1 text-sm">
        <span className="text-soft">What the next photograph shows</span>
        <input
          value={caption}
          maxLength={200}
          className={FIELD}
          onChange={({ target }) => setCaption(target.value)}
        />
      </label>
      <Button
        onClick={() => chosen.current?.click()}
        disabled={caption.trim() === '' || add.isPending}
        title={caption.trim() === '' ? 'Say first what it shows' : undefined}
      >
        {add.isPending ? 'Sending the photograph' : 'Take or choose a photograph'}
      </Button>
      <input
        ref={chosen}
        type="file"
        accept="image/jpeg,image/png"
        aria-label="Photograph of the wiring as JPEG or PNG"
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file && !add.isPending) add.mutate(file);
          target.value = '';
        }}
      />
      {add.error && <ProblemNotice error={add.error} />}
    </div>
  );
}
