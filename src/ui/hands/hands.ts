'use client';

import { create } from 'zustand';
import type { Printed } from './chords';

/** Where the trader's hands are: whether keys reach this page, whether text is being typed, whether everything is to be shown instead of done. */
interface Hands {
  /** The page has the keyboard. */
  here: boolean;
  typing: boolean;
  /** Shift is held: keys and buttons show what they would do. */
  peeking: boolean;
  /** The palette is open. */
  palette: boolean;
  /** Panels are shown in a second window. */
  second: boolean;
  /** The Desk is being arranged. */
  arranging: boolean;
  /** What is printed on this keyboard, where the browser tells. */
  printed: Printed;
}

export const useHands = create<Hands>(() => ({
  here: true,
  typing: false,
  peeking: false,
  palette: false,
  arranging: false,
  second: false,
  printed: new Map(),
}));
