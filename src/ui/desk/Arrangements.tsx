'use client';

import { LayoutPanelLeft } from 'lucide-react';
import { useState } from 'react';
import { shownOf } from '../arrangement';
import { chordName, NEXT_ARRANGEMENT } from '../hands/chords';
import { useHands } from '../hands/hands';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';

/** Which arrangement of the Desk is shown, and the way to change it. */
export function Arrangements() {
  const shown = useSettings(shownOf);
  const all = useSettings((s) => s.arrangements);
  const set = useSettings((s) => s.set);
  const arranging = useHands((s) => s.arranging);
  const [open, setOpen] = useState(false);
  return (
    <Pop
      title="Arrangements of the Desk"
      label={<LayoutPanelLeft size={14} aria-hidden />}
      className={`mr-1 px-1 py-1 hover:text-text ${arranging ? 'text-text' : 'text-quiet'}`}
      open={open}
      onOpenChange={setOpen}
    >
      <div className="grid w-56 gap-1 p-2 text-[13px]">
        {all.map((a) => (
          <button
            key={a.id}
            type="button"
            className="btn truncate text-left"
            aria-pressed={a.id === shown.id}
            onClick={() => set({ arrangement: a.id })}
          >
            {a.name}
          </button>
        ))}
        <p className="px-1 text-[12px] text-quiet">{chordName(NEXT_ARRANGEMENT)} goes to the next.</p>
        <button
          type="button"
          className="btn text-left font-semibold"
          aria-pressed={arranging}
          onClick={() => {
            useHands.setState({ arranging: !arranging });
            setOpen(false);
          }}
        >
          {arranging ? 'Leave it as it is' : 'Arrange …'}
        </button>
      </div>
    </Pop>
  );
}
