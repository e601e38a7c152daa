'use client';

import { useEffect } from 'react';
import { act, confirm, discard, peekAt, say, useSession } from '../session';
import { useSettings } from '../settings';

/** The chord of a key event by the key's place, e.g. `Control+KeyQ`; '' while only a modifier is down. */
export function chordOf(e: KeyboardEvent): string {
  if (/^(Shift|Control|Alt|Meta)/.test(e.code)) return '';
  return [e.ctrlKey && 'Control', e.altKey && 'Alt', e.shiftKey && 'Shift', e.code].filter(Boolean).join('+');
}

/** Chords that a browser keeps for itself. */
export const RESERVED = new Set([
  'Control+KeyW',
  'Control+KeyT',
  'Control+KeyN',
  'Control+Shift+KeyN',
  'Control+Shift+KeyT',
  'Control+Tab',
  'F11',
  'Alt+F4',
]);

/** Whether typing goes into this element, so that no key of ours may act. */
function isTyping(target: EventTarget | null): boolean {
  const el = target instanceof HTMLElement ? target : null;
  return el !== null && (el.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(el.tagName));
}

/**
 * The keys of the whole app: they work wherever the focus is, except while text is typed. With
 * Shift a bound key peeks. Enter sends what waits, Escape drops it.
 */
export function useKeys(): void {
  useEffect(() => {
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

function onKey(e: KeyboardEvent): void {
  if (e.repeat || e.defaultPrevented || isTyping(e.target)) return;
  const { sayBack } = useSession.getState();
  const waits = sayBack.kind === 'confirm' || sayBack.kind === 'moving';
  if (e.code === 'Escape') return discard();
  if (e.code === 'Enter' && waits) {
    e.preventDefault();
    void confirm();
    return;
  }
  const chord = chordOf(e);
  if (chord && pressed(chord)) e.preventDefault();
}

/** Does, or with Shift shows, what a chord is bound to. @returns whether it is bound. */
function pressed(chord: string): boolean {
  const { scripts, keysOn } = useSettings.getState();
  const script = scripts.find((s) => s.chord === chord);
  const plain = chord.startsWith('Shift+') ? chord.slice('Shift+'.length) : null;
  const peeked = plain === null ? undefined : scripts.find((s) => s.chord === plain);
  if (script && !keysOn) {
    const problem = 'Keys are off. Switch them on at the top right, or use the rack button.';
    say({ kind: 'refused', text: script.name, problem, done: [], fixes: [] });
  } else if (script) void act(script.text, 'keys', script.name);
  else if (peeked) void peekAt(peeked.text, peeked.name);
  return script !== undefined || peeked !== undefined;
}
