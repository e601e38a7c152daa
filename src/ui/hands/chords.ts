// Keys and buttons of the mouse by name; which of them cannot be had, and why.
import { KEYBOARD, oneHand } from './keyboard';

const plain = new Map(KEYBOARD.map((k) => [k.code, k.label]));
const MODIFIERS: Readonly<Record<string, string>> = {
  Control: 'Ctrl',
  Alt: 'Alt',
  Shift: 'Shift',
  Meta: 'Meta',
};
const MOUSE: Readonly<Record<string, string>> = {
  Mouse1: 'middle mouse button',
  Mouse3: 'side button, back',
  Mouse4: 'side button, forward',
};

/** What is printed on the keys of the trader's keyboard, by code, where the browser tells. */
export type Printed = ReadonlyMap<string, string>;

/** A chord as the trader reads it: `Ctrl+Q`, `Pad 7`, `side button, back`. */
export function chordName(chord: string, printed?: Printed): string {
  return chord
    .split('+')
    .filter((p) => p !== '')
    .map((part) => MODIFIERS[part] ?? MOUSE[part] ?? keyName(part, printed))
    .join('+');
}
function keyName(code: string, printed?: Printed): string {
  const label = printed?.get(code)?.toUpperCase() || plain.get(code) || code;
  return code.startsWith('Numpad') ? `Pad ${label}` : label;
}

/** The chord of a key event by the key's place, e.g. `Control+KeyQ`; '' while only a modifier is down. */
export function chordOf(
  e: Pick<KeyboardEvent, 'code' | 'ctrlKey' | 'altKey' | 'shiftKey' | 'metaKey'>,
): string {
  if (/^(Shift|Control|Alt|Meta)/.test(e.code) || e.code === '') return '';
  return withModifiers(e, e.code);
}

/** The chord of an extra mouse button: the middle one, or one at the side; '' for the two that point and click. */
export const mouseChordOf = (
  e: Pick<MouseEvent, 'button' | 'ctrlKey' | 'altKey' | 'shiftKey' | 'metaKey'>,
): string => (e.button === 1 || e.button >= 3 ? withModifiers(e, `Mouse${e.button}`) : '');

const withModifiers = (
  e: { ctrlKey: boolean; altKey: boolean; shiftKey: boolean; metaKey: boolean },
  key: string,
): string =>
  [e.metaKey && 'Meta', e.ctrlKey && 'Control', e.altKey && 'Alt', e.shiftKey && 'Shift', key]
    .filter(Boolean)
    .join('+');

/** What a browser or a system does with a chord, whatever a page wants. */
const KEPT: Readonly<Record<string, string>> = {
  'Control+KeyW': 'closes the tab',
  'Control+F4': 'closes the tab',
  'Control+Shift+KeyW': 'closes the window',
  'Alt+F4': 'closes the window',
  'Control+KeyT': 'opens a tab',
  'Control+KeyN': 'opens a window',
  'Control+Shift+KeyN': 'opens a private window',
  'Control+Shift+KeyT': 'brings back a closed tab',
  'Control+Tab': 'goes to another tab',
  'Control+Shift+Tab': 'goes to another tab',
  'Control+PageUp': 'goes to another tab',
  'Control+PageDown': 'goes to another tab',
  'Control+KeyQ': 'ends some browsers',
  'Control+Shift+KeyQ': 'ends some browsers',
  'Control+KeyR': 'loads the page anew',
  'Control+Shift+KeyR': 'loads the page anew',
  F5: 'loads the page anew',
  F11: 'fills the screen',
  F12: 'opens the browser’s tools',
  'Control+Shift+KeyI': 'opens the browser’s tools',
  'Control+KeyL': 'goes to the address',
  F6: 'goes to the address',
  'Alt+KeyD': 'goes to the address',
  'Alt+ArrowLeft': 'leaves the page',
  'Alt+ArrowRight': 'leaves the page',
  'Alt+Home': 'leaves the page',
  'Alt+Tab': 'goes to another window',
  'Alt+Space': 'opens the window’s menu',
  'Alt+Escape': 'goes to another window',
  'Control+Alt+Delete': 'belongs to the system',
  PrintScreen: 'belongs to the system',
};
/** Always live: turns all keys off and on. */
export const KEYS_SWITCH = 'Control+Backquote';
/** Goes to the next set of keys. */
export const NEXT_SET = 'Control+Shift+Backquote';
/** Finds anything. */
export const PALETTE = 'F2';
/** Goes to the next rack. */
export const NEXT_RACK = 'Control+Alt+Backquote';
/** The next arrangement of the Desk, and the one before. */
export const NEXT_ARRANGEMENT = 'F8';
export const PRIOR_ARRANGEMENT = 'Shift+F8';
const STAGED = 'Control+Alt+Digit';
/** Sends the n-th of what is staged; null where it has no key. */
export const stagedChord = (place: number): string | null => (place <= 9 ? `${STAGED}${place}` : null);
/** Which of what is staged a chord sends. */
export const stagedPlace = (chord: string): number | null =>
  /[1-9]$/.test(chord) && chord.startsWith(STAGED) ? Number(chord.slice(STAGED.length)) : null;
const OURS: Readonly<Record<string, string>> = {
  [KEYS_SWITCH]: 'turns all keys off and on',
  [NEXT_SET]: 'goes to the next set of keys',
  [NEXT_RACK]: 'goes to the next rack',
  [PALETTE]: 'finds anything',
  [NEXT_ARRANGEMENT]: 'goes to the next arrangement of the Desk',
  [PRIOR_ARRANGEMENT]: 'goes back to the arrangement before',
  Escape: 'drops what waits for a yes',
  Enter: 'sends what waits for a yes',
  NumpadEnter: 'sends what waits for a yes',
  Tab: 'goes from field to field',
  Space: 'presses the button that has the focus',
};

/** What speaks against a chord. `never`: it cannot be had; the others are to be known. */
export interface Fault {
  never: boolean;
  says: string;
}

/** Everything that speaks against a chord, the worst first. `owner`: the name of what is bound to it now. */
export function faultsOf(chord: string, owner: string | null, printed?: Printed): Fault[] {
  const name = chordName(chord, printed);
  const parts = chord.split('+');
  const code = parts[parts.length - 1] as string;
  const out: Fault[] = [];
  const never = (says: string) => out.push({ never: true, says });
  const note = (says: string) => out.push({ never: false, says });
  const kept = KEPT[chord] ?? (parts.includes('Meta') ? 'belongs to the system' : undefined);
  if (kept) never(`${name} ${kept}: the browser or the system keeps it`);
  const ours = OURS[chord] ?? (stagedPlace(chord) === null ? undefined : 'sends one of what is staged');
  if (ours) never(`${name} ${ours}`);
  if (parts.length === 2 && parts[0] === 'Shift') never('Shift peeks; take another key');
  if (out.length > 0) return out;
  if (owner !== null) note(`${name} is “${owner}” now`);
  const there = printed?.get(code);
  const usual = plain.get(code);
  if (there && usual && there.toUpperCase() !== usual)
    note(`on your keyboard this key prints ${there.toUpperCase()}; on others ${usual}`);
  if (!oneHand(chord)) note(`${name} needs two hands, or a very large one`);
  return out;
}
