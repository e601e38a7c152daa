'use client';

import { Search } from 'lucide-react';
import dynamic from 'next/dynamic';
import { chordName, PALETTE } from '../hands/chords';
import { useHands } from '../hands/hands';

/** Fetched when it is first opened: with it comes the language. */
const Palette = dynamic(() => import('./Palette').then((m) => m.Palette), { ssr: false });

/** The button of the palette, and the palette while it is open. */
export function PaletteDoor() {
  const open = useHands((s) => s.palette);
  const show = (palette: boolean) => useHands.setState({ palette });
  return (
    <>
      <button
        type="button"
        className="btn flex items-center gap-1.5 px-2 text-quiet"
        title="Find anything and do it"
        aria-label={`Find anything (${chordName(PALETTE)})`}
        onClick={() => show(true)}
      >
        <Search size={14} aria-hidden />
        <kbd className="num text-[12px]">{chordName(PALETTE)}</kbd>
      </button>
      {open && <Palette close={() => show(false)} />}
    </>
  );
}
