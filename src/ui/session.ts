'use client';

import { create } from 'zustand';
import { eventText, type OrderEvent } from '@/core/orders';
import { parseScript } from '@/core/script';
import { type Client, startClient } from '@/worker/client';
import type { AnswerTo, Peeked, Request, Update } from '@/worker/protocol';
import { mergeBook } from './book';
import { useSettings } from './settings';

/** The sentence strip: what was said last, or what waits for a yes. */
export type SayBack =
  | { kind: 'idle' }
  | { kind: 'peek'; peeked: Peeked; from: string }
  | { kind: 'confirm'; text: string; peeked: Peeked; from: string }
  | { kind: 'moving'; orderId: number; price: number; label: string }
  /** `at`: session time, by which what else happened then is known to be part of it. */
  | { kind: 'done'; lines: string[]; got: string[]; warnings: string[]; at: number }
  /** Something that happened by itself and has to be known. */
  | { kind: 'told'; text: string; flatten: string | null }
  | { kind: 'refused'; text: string; problem: string; done: string[] };

interface Session extends Required<Nullable<Update>> {
  phase: 'starting' | 'ready' | 'waiting' | 'broken';
  trouble: string;
  /** Long work of the worker, while it is under way. */
  working: { what: string; at: number; from: number; to: number; ending: 'as before' | 'here' } | null;
  sayBack: SayBack;
  /** An order line under the pointer: where it would go. */
  drag: { orderId: number; price: number } | null;
}
type Nullable<T> = { [K in keyof T]: T[K] | null };

export const useSession = create<Session>(() => ({
  phase: 'starting',
  trouble: '',
  working: null,
  sayBack: { kind: 'idle' },
  drag: null,
  clock: null,
  focus: null,
  bars: null,
  table: null,
  symbols: null,
  context: null,
  alerts: null,
  book: null,
  line: null,
  marks: null,
  account: null,
  rack: null,
  news: null,
}));

let client: Client | null = null;
let pending: Update | null = null;

/** Where the pointer stands on the chart of the focus, in price units; null when it is elsewhere. */
export const pointer: { price: number | null } = { price: null };

/** Starts the worker once; updates are merged and shown at most once a frame. */
export function startSession(): void {
  if (client) return;
  client = startClient((m) => {
    switch (m.kind) {
      case 'update':
        if (!pending) requestAnimationFrame(flush);
        pending = merge(pending, m.update);
        return;
      case 'ready':
        useSession.setState({ phase: 'ready' });
        return;
      case 'working':
        useSession.setState({ working: m });
        return;
      case 'worked':
        useSession.setState({ working: null });
        return;
      case 'notice':
        say({ kind: 'told', text: m.text, flatten: null });
        return;
      case 'waiting':
        useSession.setState({ phase: 'waiting' });
        return;
      case 'broken':
        useSession.setState({ phase: 'broken', trouble: m.message });
    }
  });
}

function flush(): void {
  if (pending) {
    const { book, ...others } = pending;
    const now = useSession.getState();
    useSession.setState(book ? { ...others, book: mergeBook(now.book, book) } : others);
    if (book) tellEnd(book, now.book !== null && !book.whole);
  }
  pending = null;
}

/** The book comes as changes, which add up; every other slice replaces the one before. */
const merge = (before: Update | null, next: Update): Update => ({
  ...before,
  ...next,
  ...(before?.book && next.book ? { book: mergeBook(before.book, next.book) } : {}),
});

/** A trade that ends by itself says what it came to, where nothing else waits for a yes. */
function tellEnd({ events }: NonNullable<Update['book']>, fresh: boolean): void {
  const over = fresh ? events.filter(hasToBeKnown) : [];
  const last = over[over.length - 1];
  const { sayBack } = useSession.getState();
  if (!last || (sayBack.kind === 'done' && sayBack.at === last.at)) return;
  if (sayBack.kind === 'idle' || sayBack.kind === 'done' || sayBack.kind === 'told')
    say({ kind: 'told', text: eventText(last), flatten: last.kind === 'rejected' || last.kind === 'turned' ? last.symbol : null });
}

/** What happens by itself and cannot wait until somebody looks: the end of a trade, exits that the exchange refuses, a stop that ended, the line. */
const hasToBeKnown = (e: OrderEvent): boolean =>
  e.kind === 'trade over' ||
  e.kind === 'turned' ||
  e.kind === 'line' ||
  (e.kind === 'rejected' && e.role !== 'entry') ||
  (e.kind === 'expired' && e.bare > 0) ||
  (e.kind === 'rejected' && typeof e.why === 'object');

/** Asks the worker; a refusal is shown in the sentence strip and comes back as null. */
export async function ask<K extends Request['kind']>(request: Extract<Request, { kind: K }>): Promise<AnswerTo<K> | null> {
  try {
    return client ? await client.ask<K>(request) : null;
  } catch (e) {
    say({ kind: 'refused', text: request.kind, problem: e instanceof Error ? e.message : String(e), done: [] });
    return null;
  }
}

export const say = (sayBack: SayBack): void => useSession.setState({ sayBack });

export type Origin = 'keys' | 'buttons' | 'ticket';

/**
 * A key, button or ticket was used. What adds risk waits for a yes where confirmations are on;
 * everything else goes at once.
 */
export async function act(text: string, origin: Origin, from: string): Promise<void> {
  const now = useSession.getState().sayBack;
  if (now.kind === 'confirm' && now.text === text) return confirm();
  const { script, problems } = parseScript(text);
  const quick = problems.length === 0 && script.lines.every(({ statement: s }) => s.kind !== 'entry' && !('staged' in s && s.staged));
  if (quick) return send(text);
  const answer = await ask({ kind: 'peek', text, cursor: pointer.price });
  if (!answer) return;
  const { peeked } = answer;
  const asks = origin === 'ticket' ? useSettings.getState().confirm.buttons : useSettings.getState().confirm[origin];
  if (peeked.problem !== null) return say({ kind: 'refused', text, problem: peeked.problem, done: [] });
  if (peeked.staged || (peeked.addsRisk && asks)) return say({ kind: 'confirm', text, peeked, from });
  await send(text);
}

/** Shows what a script would do now; nothing is sent. */
export async function peekAt(text: string, from: string): Promise<void> {
  const answer = await ask({ kind: 'peek', text, cursor: pointer.price });
  if (answer) say({ kind: 'peek', peeked: answer.peeked, from });
}

/** Sends what waits in the sentence strip. */
export async function confirm(): Promise<void> {
  const now = useSession.getState().sayBack;
  if (now.kind === 'confirm') await send(now.text.replace(/^(\s*)stage /gm, '$1'));
  else if (now.kind === 'moving') await send(`move order ${now.orderId} to ${now.price}`);
  useSession.setState({ drag: null });
}

/** Drops what waits; nothing was sent. */
export function discard(): void {
  useSession.setState({ drag: null, sayBack: { kind: 'idle' } });
}

async function send(text: string): Promise<void> {
  const before = useSession.getState().sayBack;
  const answer = await ask({ kind: 'run', text, cursor: pointer.price });
  if (!answer) return;
  const { result } = answer;
  if (result.problem !== null) return say({ kind: 'refused', text, problem: result.problem, done: result.done });
  const now = useSession.getState().sayBack;
  // Something else waits for a yes by now: that it was done shows in the trade; the form is not taken from under the hand.
  if (now !== before && (now.kind === 'moving' || now.kind === 'confirm')) return;
  say({ kind: 'done', lines: result.done, got: [...result.got, ...result.ended], warnings: result.warnings, at: result.at });
}

/** Puts a symbol into focus everywhere, and remembers it. What waits for a yes was meant for the old one and is dropped. */
export async function focusOn(symbol: string): Promise<void> {
  const { sayBack, focus } = useSession.getState();
  if (sayBack.kind === 'confirm' && focus?.symbol !== symbol) discard();
  useSettings.getState().set({ focus: symbol });
  await ask({ kind: 'focus', symbol });
}
