'use client';

import { useState } from 'react';
import { bound, keyOf, scriptAt } from '@/store/keys';
import { chordName, chordOf, type Fault, faultsOf, mouseChordOf } from '../hands/chords';
import { useHands } from '../hands/hands';
import { useSettings } from '../settings';

/** Records a key or an extra mouse button for a script; what speaks against it is said while it is recorded. */
export function ChordField({ script }: { script: string }) {
  const chord = useSettings((s) => keyOf(s, script));
  const printed = useHands((s) => s.printed);
  const [listening, setListening] = useState(false);
  /** What was pressed and not yet taken: somebody has to say yes to what speaks against it. */
  const [pressed, setPressed] = useState<{ chord: string; faults: Fault[] } | null>(null);
  const take = (at: string) => {
    const settings = useSettings.getState();
    settings.set(bound(settings, script, at));
    setPressed(null);
    setListening(false);
  };
  const hear = (at: string) => {
    const settings = useSettings.getState();
    const owner = scriptAt(settings, at);
    const faults = faultsOf(at, owner && owner.id !== script ? owner.name : null, printed);
    if (faults.length === 0) take(at);
    else setPressed({ chord: at, faults });
  };
  const never = pressed?.faults.some((f) => f.never) ?? false;
  return (
    <span className="relative">
      <span className="heading block">Key or mouse button</span>
      <span className="mt-1 flex gap-1">
        <button
          type="button"
          className="btn num min-w-36"
          data-on={listening}
          onClick={() => {
            setListening(true);
            setPressed(null);
          }}
          onBlur={(e) => {
            if (!e.currentTarget.parentElement?.parentElement?.contains(e.relatedTarget)) {
              setListening(false);
              setPressed(null);
            }
          }}
          onKeyDown={(e) => {
            if (!listening) return;
            e.preventDefault();
            e.stopPropagation();
            const at = chordOf(e.nativeEvent);
            if (at === 'Escape') {
              setListening(false);
              setPressed(null);
            } else if (at === 'Backspace' || at === 'Delete') take('');
            else if (at) hear(at);
          }}
          onMouseDown={(e) => {
            const at = listening ? mouseChordOf(e.nativeEvent) : '';
            if (!at) return;
            e.preventDefault();
            e.stopPropagation();
            hear(at);
          }}
        >
          {listening ? 'press it now …' : chord ? chordName(chord, printed) : 'record a key'}
        </button>
        {chord && !listening && (
          <button type="button" className="btn px-1.5" aria-label="Take the key off" onClick={() => take('')}>
            ✕
          </button>
        )}
      </span>
      {pressed && (
        <span
          role="alert"
          className="panel absolute top-full right-0 z-30 mt-1 block w-[320px] bg-raised p-2 text-[13px] shadow-lg"
        >
          {pressed.faults.map((f) => (
            <span key={f.says} className="block">
              ⚠ {f.says}.
            </span>
          ))}
          {never ? (
            <span className="block text-quiet">Press another one.</span>
          ) : (
            <button type="button" className="btn mt-1 text-focus" onClick={() => take(pressed.chord)}>
              Take {chordName(pressed.chord, printed)} all the same
            </button>
          )}
        </span>
      )}
    </span>
  );
}
