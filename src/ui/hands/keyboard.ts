// A keyboard as it lies on the table, by the places of its keys (UI Events KeyboardEvent code Values), and what a hand can reach.

/** A key: its code, what is printed on it on a plain layout, where it lies and how wide it is, in key widths. */
export interface Keycap {
  code: string;
  label: string;
  x: number;
  y: number;
  w: number;
}

const row = (y: number, x: number, keys: readonly (readonly [string, string, number?])[]): Keycap[] => {
  let at = x;
  return keys.map(([code, label, w = 1]) => {
    const cap = { code, label, x: at, y, w };
    at += w;
    return cap;
  });
};
const letters = (text: string) => [...text].map((c) => [`Key${c}`, c] as const);

/** The main block, and the number pad to the right of it. */
export const KEYBOARD: readonly Keycap[] = [
  ...row(0, 0, [['Escape', 'Esc']]),
  ...row(
    0,
    2,
    [1, 2, 3, 4].map((n) => [`F${n}`, `F${n}`] as const),
  ),
  ...row(
    0,
    6.5,
    [5, 6, 7, 8].map((n) => [`F${n}`, `F${n}`] as const),
  ),
  ...row(
    0,
    11,
    [9, 10, 11, 12].map((n) => [`F${n}`, `F${n}`] as const),
  ),
  ...row(1, 0, [
    ['Backquote', '`'],
    ...[1, 2, 3, 4, 5, 6, 7, 8, 9, 0].map((n) => [`Digit${n}`, `${n}`] as const),
    ['Minus', '-'],
    ['Equal', '='],
    ['Backspace', '⌫', 2],
  ]),
  ...row(2, 0, [
    ['Tab', 'Tab', 1.5],
    ...letters('QWERTYUIOP'),
    ['BracketLeft', '['],
    ['BracketRight', ']'],
    ['Backslash', '\\', 1.5],
  ]),
  ...row(3, 0, [
    ['CapsLock', 'Caps', 1.75],
    ...letters('ASDFGHJKL'),
    ['Semicolon', ';'],
    ['Quote', "'"],
    ['Enter', 'Enter', 2.25],
  ]),
  ...row(4, 0, [
    ['ShiftLeft', 'Shift', 2.25],
    ...letters('ZXCVBNM'),
    ['Comma', ','],
    ['Period', '.'],
    ['Slash', '/'],
    ['ShiftRight', 'Shift', 2.75],
  ]),
  ...row(5, 0, [
    ['ControlLeft', 'Ctrl', 1.5],
    ['MetaLeft', '', 1.25],
    ['AltLeft', 'Alt', 1.25],
    ['Space', 'Space', 6.25],
    ['AltRight', 'Alt', 1.25],
    ['MetaRight', '', 1.25],
    ['ControlRight', 'Ctrl', 2.25],
  ]),
  ...row(1, 15.5, [
    ['NumLock', 'Num'],
    ['NumpadDivide', '/'],
    ['NumpadMultiply', '*'],
    ['NumpadSubtract', '-'],
  ]),
  ...row(2, 15.5, [
    ['Numpad7', '7'],
    ['Numpad8', '8'],
    ['Numpad9', '9'],
    ['NumpadAdd', '+'],
  ]),
  ...row(3, 15.5, [
    ['Numpad4', '4'],
    ['Numpad5', '5'],
    ['Numpad6', '6'],
  ]),
  ...row(4, 15.5, [
    ['Numpad1', '1'],
    ['Numpad2', '2'],
    ['Numpad3', '3'],
    ['NumpadEnter', '↵'],
  ]),
  ...row(5, 15.5, [
    ['Numpad0', '0', 2],
    ['NumpadDecimal', '.'],
  ]),
];

const places = new Map(KEYBOARD.map((k) => [k.code, { x: k.x + k.w / 2, y: k.y }]));
const SIDES: Readonly<Record<string, readonly [string, string]>> = {
  Control: ['ControlLeft', 'ControlRight'],
  Alt: ['AltLeft', 'AltRight'],
  Shift: ['ShiftLeft', 'ShiftRight'],
};
/** How far apart a thumb and a finger of one hand press keys at once, in key widths (a hand spans about 15 cm: common practice). */
const SPAN = 7.5;

/** Whether one hand can press a chord: its modifiers on either side, and its key. */
export function oneHand(chord: string): boolean {
  const parts = chord.split('+');
  const key = places.get(parts[parts.length - 1] as string);
  if (!key) return true;
  return [0, 1].some((side) =>
    parts.slice(0, -1).every((m) => {
      const at = places.get(SIDES[m]?.[side] ?? '');
      return !at || Math.hypot(at.x - key.x, at.y - key.y) <= SPAN;
    }),
  );
}
