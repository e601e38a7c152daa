'use client';

import { useEffect } from 'react';
import { keysInUse, rackShown, scriptAt } from '@/store/keys';
import type { SavedScript } from '@/store/settings';
import { stepArrangement } from '../arrangement';
import { act, answerAhead, confirm, discard, notice, peekAt, refused, useSession } from '../client';
import { useSettings } from '../settings';
import {
  chordOf,
  KEYS_SWITCH,
  mouseChordOf,
  NEXT_ARRANGEMENT,
  NEXT_RACK,
  NEXT_SET,
  PALETTE,
  PRIOR_ARRANGEMENT,
  stagedPlace,
} from './chords';
import { useHands } from './hands';

/** Whether typing goes into this element, so that no key of ours may act. */
function isTyping(target: EventTarget | null): boolean {
  // By what it has, not by its class: an element of another window is of another class.
  const el = target as Partial<HTMLInputElement> | null;
  return (
    el?.isContentEditable === true ||
    /^(TEXTAREA|SELECT)$/.test(el?.tagName ?? '') ||
    (el?.tagName === 'INPUT' && !/^(checkbox|radio|range|button|submit|file)$/.test(el.type ?? ''))
  );
}

/**
 * The keys of the whole app: they work wherever the focus is, except while text is typed. With
 * Shift a bound key peeks. Enter sends what waits, Escape drops it.
 */
export function useKeys(): void {
  useEffect(() => {
    void printedKeys().then((printed) => useHands.setState({ printed }));
    return listen(window);
  }, []);
}

/** Takes the keys and buttons of a window. @returns how to let go of them. */
export function listen(window: Window): () => void {
  const { document } = window;
  const hands = () =>
    useHands.setState({
      here: document.hasFocus() && !document.hidden,
      typing: isTyping(document.activeElement),
    });
  const away = () => useHands.setState({ here: false, peeking: false });
  const typed = (e: FocusEvent) =>
    useHands.setState({ typing: e.type === 'focusin' && isTyping(e.target), here: true });
  const up = (e: KeyboardEvent) => e.key === 'Shift' && letGo();
  const listeners = [
    ['keydown', onKey],
    ['keyup', up],
    ['mousedown', onMouse],
    ['mouseup', keepMouse],
    ['auxclick', keepMouse],
    ['focus', hands],
    ['blur', away],
    ['focusin', typed],
    ['focusout', typed],
    ['visibilitychange', hands],
  ] as const;
  hands();
  for (const [kind, f] of listeners)
    window.addEventListener(kind, f as EventListener, kind === 'visibilitychange');
  window.addEventListener('keydown', onCtrlEnter, true);
  return () => {
    window.removeEventListener('keydown', onCtrlEnter, true);
    for (const [kind, f] of listeners)
      window.removeEventListener(kind, f as EventListener, kind === 'visibilitychange');
  };
}

/** Ctrl+Enter sends what waits also while text is typed, whatever the text would do with it. */
function onCtrlEnter(e: KeyboardEvent): void {
  const waits = useSession.getState().sayBack.kind === 'confirm';
  if (e.code !== 'Enter' || !(e.ctrlKey || e.metaKey) || e.repeat || !waits || !isTyping(e.target)) return;
  e.preventDefault();
  e.stopPropagation();
  void confirm();
}

/** Shift is let go: what was peeked at leaves no trace. */
function letGo(): void {
  useHands.setState({ peeking: false });
  if (useSession.getState().sayBack.kind === 'peek') discard();
}

/** What is printed on this keyboard, where the browser tells (Keyboard Map, W3C incubator). */
async function printedKeys(): Promise<ReadonlyMap<string, string>> {
  const { keyboard } = navigator as { keyboard?: { getLayoutMap?(): Promise<Iterable<[string, string]>> } };
  try {
    return new Map((await keyboard?.getLayoutMap?.()) ?? []);
  } catch {
    return new Map();
  }
}

function onKey(e: KeyboardEvent): void {
  const chord = chordOf(e);
  if (chord === KEYS_SWITCH && !e.repeat) {
    e.preventDefault();
    const { keysOn, set } = useSettings.getState();
    return set({ keysOn: !keysOn });
  }
  if (chord === PALETTE && !e.repeat) {
    e.preventDefault();
    return useHands.setState({ palette: true });
  }
  // A tab takes Enter for itself; what waits for a yes goes before it.
  const onTab = (e.target as Element | null)?.getAttribute?.('role') === 'tab';
  if (e.repeat || (e.defaultPrevented && !onTab) || isTyping(e.target)) return;
  if (e.key === 'Shift') return useHands.setState({ peeking: true });
  const { sayBack } = useSession.getState();
  const waits = sayBack.kind === 'confirm' || sayBack.kind === 'moving';
  if (e.code === 'Escape') {
    answerAhead('no');
    return discard();
  }
  // A key that is not answered yet is meant before what still waits from an earlier one.
  const ahead = e.code === 'Enter' && answerAhead('yes');
  if (ahead || (e.code === 'Enter' && waits)) {
    e.preventDefault();
    if (!ahead) void confirm();
    return;
  }
  if (chord && pressed(chord)) e.preventDefault();
}

function onMouse(e: MouseEvent): void {
  const chord = mouseChordOf(e);
  if (chord && pressed(chord)) e.preventDefault();
}
/** A side button that is bound does not leave the page. */
function keepMouse(e: MouseEvent): void {
  if (mouseChordOf(e) && scriptAt(useSettings.getState(), mouseChordOf(e))) e.preventDefault();
}

/** Does, or with Shift shows, what a chord is bound to. @returns whether it is bound. */
function pressed(chord: string): boolean {
  if (chord === NEXT_SET) return nextSet();
  if (chord === NEXT_RACK) return nextRack();
  if (chord === NEXT_ARRANGEMENT) return stepped(1);
  if (chord === PRIOR_ARRANGEMENT) return stepped(-1);
  const settings = useSettings.getState();
  const place = stagedPlace(chord);
  if (place !== null) return sendStaged(place, settings.keysOn);
  const script = scriptAt(settings, chord);
  const plain = chord.startsWith('Shift+') ? chord.slice('Shift+'.length) : null;
  const peeked = plain === null || script ? undefined : scriptAt(settings, plain);
  if (script && !settings.keysOn) off(script);
  else if (script) void act(script.text, 'keys', script.name);
  else if (peeked) void peekAt(peeked.text, peeked.name);
  return script !== undefined || peeked !== undefined;
}

/** Sends what is staged under a number. @returns whether anything is staged at all. */
function sendStaged(place: number, keysOn: boolean): boolean {
  const list = useSession.getState().desk?.staged ?? [];
  const staged = list.find((x) => x.place === place);
  if (!staged) {
    const there = list.flatMap((x) => (x.place === null ? [] : `${x.place}: ${x.symbol}`));
    if (list.length > 0)
      refused(
        `Staged ${place}`,
        `Nothing is staged under ${place}${there.length > 0 ? `; there is ${there.join(', ')}` : ''}.`,
      );
    return list.length > 0;
  }
  if (keysOn) void act(`send staged order ${staged.id}`, 'keys', 'Staged');
  else off({ name: `Send what is staged for ${staged.symbol}` });
  return true;
}

function nextRack(): boolean {
  const settings = useSettings.getState();
  const at = settings.racks.indexOf(rackShown(settings));
  const next = settings.racks[(at + 1) % settings.racks.length];
  if (next) settings.set({ rack: next.id });
  return true;
}

function stepped(by: 1 | -1): boolean {
  stepArrangement(by);
  return true;
}

const off = (script: Pick<SavedScript, 'name'>) =>
  refused(script.name, 'Keys are off. Switch them on at the top right (Ctrl+`), or use the rack button.');

function nextSet(): boolean {
  const settings = useSettings.getState();
  const at = settings.keySets.indexOf(keysInUse(settings));
  const next = settings.keySets[(at + 1) % settings.keySets.length];
  if (next) {
    settings.set({ keySet: next.id });
    notice(`The keys are those of “${next.name}” now.`);
  }
  return true;
}
