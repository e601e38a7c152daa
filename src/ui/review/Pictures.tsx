'use client';

import { type ClipboardEvent, useEffect, useState } from 'react';
import type { KeptPicture } from '@/store/kept';
import { SureButton } from '../primitives/SureButton';
import { askReview, useAsked } from './asked';

const MOST_BYTES = 5_000_000;

/** Keeps a picture of the clipboard with a trade. @returns why it could not be kept; null when it was, or when there was none. */
export async function pastePicture(e: ClipboardEvent, ref: string): Promise<string | null> {
  const file = [...e.clipboardData.files].find((f) => /^image\/(png|jpeg|webp)$/.test(f.type));
  if (!file) return null;
  e.preventDefault();
  if (file.size > MOST_BYTES)
    return `The picture has ${(file.size / 1e6).toFixed(1)} MB; at most ${MOST_BYTES / 1e6} MB are kept. Cut it smaller.`;
  const bytes = new Uint8Array(await file.arrayBuffer());
  await askReview({ kind: 'keep picture', picture: { ref, type: file.type, bytes } });
  return null;
}

/** The pictures that were pasted to a trade. `version` grows when there is another one. */
export function Pictures({ reference, version }: { reference: string; version: number }) {
  const [dropped, setDropped] = useState(0);
  return (
    <List
      key={`${reference} ${version} ${dropped}`}
      reference={reference}
      again={() => setDropped(dropped + 1)}
    />
  );
}

function List({ reference, again }: { reference: string; again(): void }) {
  const { answer } = useAsked({ kind: 'pictures', ref: reference });
  if (!answer?.length) return null;
  return (
    <div className="col-span-2 grid grid-cols-2 gap-2">
      {answer.map((p) => (
        <Picture
          key={p.n}
          picture={p}
          drop={() => void askReview({ kind: 'drop picture', ref: p.ref, n: p.n }).then(again)}
        />
      ))}
    </div>
  );
}

function Picture({ picture: p, drop }: { picture: KeptPicture; drop(): void }) {
  const [url, setUrl] = useState('');
  useEffect(() => {
    const made = URL.createObjectURL(new Blob([p.bytes], { type: p.type }));
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [p]);
  return (
    <figure>
      {url && (
        // biome-ignore lint/performance/noImgElement: it is the trader's own, in the browser
        <img
          src={url}
          alt={`Pasted, number ${p.n}`}
          className="max-h-40 w-full border border-line object-contain"
        />
      )}
      <SureButton label="Drop" sure="Really drop it" act={drop} className="btn mt-1 px-2 py-0 text-[12px]" />
    </figure>
  );
}
