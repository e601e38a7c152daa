'use client';

import { create } from 'zustand';
import { rootOf } from '@/core/instruments';
import type { DrawnLevel } from '@/core/market';
import { eventText, type OrderEvent } from '@/core/orders';
import type { DeskAct } from '@/core/reading';
import { formatPrice, type OrderId, type Price } from '@/core/units';
import type { PressedBy } from '@/session/log';
import type { Settings } from '@/store/settings';
import { type SessionCalls, sessionCalls } from '@/worker/session/session-calls';
import type {
  AnswerTo,
  BarsSlice,
  ChainSlice,
  DaysSlice,
  DepthSlice,
  EarlierSlice,
  PayoffSlice,
  Peeked,
  Proposal,
  Query,
  Request,
  Seen,
  SymbolSlice,
  TableSlice,
  Update,
  WaitsSlice,
  WorkingNow,
} from '@/worker/session/session-messages';
import { mergeBook } from './book';
import { useSettings } from './settings';

/** The sentence strip: what was said last, or what waits for a yes. */
type SayBack =
  | { kind: 'idle' }
  | { kind: 'peek'; peeked: Peeked; from: string }
  /** Waits for a yes; `peeked` is kept live, `proposal` is what will be sent. */
  | { kind: 'confirm'; proposal: Proposal; peeked: Peeked; from: string; meant: Meant | null; early?: true }
  /** `sends`: the sentence that goes, where it is more than another price. */
  | { kind: 'moving'; orderId: OrderId; price: Price; label: string; sends?: string }
  /** `at`: session time, by which what else happened then is known to be part of it. */
  | {
      kind: 'done';
      lines: string[];
      about: string[];
      got: string[];
      warnings: string[];
      back: string[];
      idle: boolean;
      at: number;
      /** The text that was pressed, where another was meant that went now: its key may keep that. */
      meant: Meant | null;
    }
  /** Something that happened by itself and has to be known. */
  | { kind: 'told'; text: string; flatten: string | null }
  | {
      kind: 'refused';
      text: string;
      problem: string;
      done: string[];
      fixes: readonly string[];
      /** The fixes may be kept in the key. */
      lasting: boolean;
    };

/** What a text that was pressed means, as the trader answered. */
export interface Meant {
  text: string;
  means: string;
}

interface Session extends Required<Nullable<Omit<Update, 'watched'>>> {
  focus: SymbolSlice | null;
  bars: BarsSlice | null;
  /** Of symbols that are looked at beside the focus: how they stand, and their candles; finished days of any. */
  others: Readonly<Record<string, SymbolSlice>>;
  barsOf: Readonly<Record<string, BarsSlice>>;
  daysOf: Readonly<Record<string, DaysSlice>>;
  /** Minutes of days before today, of any. */
  earlierOf: Readonly<Record<string, EarlierSlice>>;
  /** The book of the focus, while the ladder is there. */
  depth: DepthSlice | null;
  /** The book of the contract in hand, while the chain is there. */
  contract: DepthSlice | null;
  table: TableSlice | null;
  /** What the scripts on the rack, and what is staged, would do now. */
  rack: Peeked[] | null;
  staged: Peeked[] | null;
  /** What each choice of an open word menu would do now. */
  offers: Peeked[] | null;
  /** What each key would do now, while Shift is held. */
  keyPeeks: Peeked[] | null;
  /** What waits for a condition, and what has. */
  waits: WaitsSlice | null;
  /** The option chain that is looked at; null while none is, or the symbol has no options. */
  chain: ChainSlice | null;
  /** The view that a sentence asked for; null once it is shown. */
  opened: string | null;
  /** What may come of what the ticket opens, while it is an option. */
  payoff: PayoffSlice | null;
  phase: 'starting' | 'ready' | 'waiting' | 'broken';
  trouble: string;
  /** Long work of the worker, while it is under way. */
  /** How far an archive has been taken in; null: none is. */
  takingIn: number | null;
  /** No room on disk: everything waits for it, or only what can be made again; null: there is room. */
  noRoom: 'waits' | 'late' | null;
  /** Why the browser keeps nothing; null: it does. */
  notKept: string | null;
  working: WorkingNow | null;
  sayBack: SayBack;
  /** The form for exits: open, with a price of the chart or the depth, or without; null: closed. */
  exits: { price: Price | null } | null;
  /** The chart of a symbol was cleared by a sentence, with the levels that it had. */
  cleared: { symbol: string; levels: Readonly<Record<string, DrawnLevel>> } | null;
  /** An order line under the pointer: where it would go. */
  drag: { orderId: OrderId; price: Price } | null;
}
type Nullable<T> = { [K in keyof T]: T[K] | null };

export const useSession = create<Session>(() => ({
  phase: 'starting',
  trouble: '',
  takingIn: null,
  noRoom: null,
  notKept: null,
  working: null,
  sayBack: { kind: 'idle' },
  drag: null,
  cleared: null,
  exits: null,
  clock: null,
  focusOn: null,
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
  staged: null,
  offers: null,
  keyPeeks: null,
  others: {},
  barsOf: {},
  daysOf: {},
  earlierOf: {},
  depth: null,
  contract: null,
  waits: null,
  chain: null,
  opened: null,
  payoff: null,
  desk: null,
  news: null,
}));

/** Windows that show this session beside the page itself. */
export const screens = new Set<Window>();
/** Before the next paint of a window that is seen: a page behind others paints none. */
function beforePaint(task: () => void): void {
  const seen = [window, ...screens].find((w) => !w.document.hidden) ?? window;
  seen.requestAnimationFrame(task);
}

let worker: SessionCalls | null = null;
let pending: Update | null = null;
/** Levels as they were before the desk was last told. */
let levelsBefore: NonNullable<Update['desk']>['levels'] = {};

/** Where the pointer stands on the chart of the focus, in price units; null when it is elsewhere. */
export const pointer: { price: number | null } = { price: null };

/** Starts the worker; updates are merged and shown at most once a frame. */
function startSession(): void {
  worker = sessionCalls((m) => {
    switch (m.kind) {
      case 'update':
        if (!pending) beforePaint(flush);
        pending = merge(pending, m.update);
        return;
      case 'ready':
        void watch('focus', { kind: 'symbol', symbol: null });
        void watch('bars', { kind: 'bars', symbol: null });
        void watch('waits', { kind: 'waits' });
        useSession.setState({ phase: 'ready' });
        return;
      case 'taking in':
        useSession.setState({ takingIn: m.part < 1 ? m.part : null });
        return;
      case 'working':
        useSession.setState({ working: m });
        return;
      case 'no room':
        useSession.setState({ noRoom: m.waits ? 'waits' : 'late' });
        return;
      case 'room':
        useSession.setState({ noRoom: null });
        return;
      case 'not kept':
        useSession.setState({ notKept: m.why });
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
    const { book, watched, ...others } = pending;
    const now = useSession.getState();
    if (others.desk && now.desk) levelsBefore = now.desk.levels;
    useSession.setState({
      ...others,
      ...seenBy(watched ?? {}),
      ...(book ? { book: mergeBook(now.book, book) } : {}),
    });
    if (book) tellEnd(book, now.book !== null && !book.whole);
    dropOld();
  }
  pending = null;
}

/** What waits for a yes was meant for the symbol that was in focus: it does not outlive it, also where the answer came after the click. */
function dropOld(): void {
  const { sayBack, focus } = useSession.getState();
  if (sayBack.kind !== 'confirm' || !focus || sayBack.proposal.focus === focus.symbol) return;
  useSession.setState({ drag: null });
  refused(
    sayBack.proposal.text,
    `This was meant for ${sayBack.proposal.focus}; ${focus.symbol} is in focus now. Press the key again.`,
  );
}

/** What the watches have told, where the interface keeps it. */
function seenBy(watched: NonNullable<Update['watched']>): Partial<Session> {
  const out: Partial<Session> = {};
  for (const [id, seen] of Object.entries(watched)) {
    if (id === 'focus' && seen.kind === 'symbol') out.focus = seen.symbol;
    else if (id === 'bars' && seen.kind === 'bars') out.bars = seen.bars;
    else if (seen.kind === 'depth') out[id === 'contract' ? 'contract' : 'depth'] = seen.depth;
    else if (id === 'table' && seen.kind === 'table') out.table = seen.table;
    else if (seen.kind === 'chain') out.chain = seen.chain;
    else if (seen.kind === 'payoff') out.payoff = seen.payoff;
    else if (id === 'waits' && seen.kind === 'waits') out.waits = seen.waits;
    else if (seen.kind === 'peeks') Object.assign(out, peeksSeen(id, seen.peeks));
    else besideOthers(out, seen);
  }
  return out;
}

/** What is known of several symbols at once, each beside the others. */
function besideOthers(out: Partial<Session>, seen: Seen): void {
  if (seen.kind === 'symbol') out.others = beside('others', out, seen.symbol);
  else if (seen.kind === 'bars') out.barsOf = beside('barsOf', out, seen.bars);
  else if (seen.kind === 'days') out.daysOf = beside('daysOf', out, seen.days);
  else if (seen.kind === 'earlier') out.earlierOf = beside('earlierOf', out, seen.earlier);
}

/** What is known by symbol, with one more. */
const beside = <K extends 'others' | 'barsOf' | 'daysOf' | 'earlierOf', V extends { symbol: string }>(
  where: K,
  out: Partial<Session>,
  value: V,
) => ({ ...useSession.getState()[where], ...out[where], [value.symbol]: value }) as Session[K];

function peeksSeen(id: string, peeks: Peeked[]): Partial<Session> {
  if (id === 'rack') return { rack: peeks };
  if (id === 'staged') return { staged: peeks };
  if (id === 'offers') return { offers: peeks };
  if (id === 'keys') return { keyPeeks: peeks };
  const { sayBack } = useSession.getState();
  const [peeked] = peeks;
  const same =
    id === 'proposal' &&
    sayBack.kind === 'confirm' &&
    peeked?.text === sayBack.proposal.text &&
    peeked.focus === sayBack.proposal.focus;
  return same ? { sayBack: { ...sayBack, peeked } } : {};
}

/** The book comes as changes, which add up; every other slice replaces the one before. */
const merge = (before: Update | null, next: Update): Update => ({
  ...before,
  ...next,
  ...(before?.book && next.book ? { book: mergeBook(before.book, next.book) } : {}),
  ...(before?.watched && next.watched ? { watched: { ...before.watched, ...next.watched } } : {}),
});

/** A trade that ends by itself says what it came to, where nothing else waits for a yes. */
function tellEnd({ events }: NonNullable<Update['book']>, fresh: boolean): void {
  const over = fresh ? events.filter(hasToBeKnown) : [];
  const last = over[over.length - 1];
  const { sayBack } = useSession.getState();
  if (!last || (sayBack.kind === 'done' && sayBack.at === last.at)) return;
  if (sayBack.kind === 'idle' || sayBack.kind === 'done' || sayBack.kind === 'told')
    say({
      kind: 'told',
      text: eventText(last),
      flatten: FLATTEN_OFFERED.has(last.kind) ? last.symbol : null,
    });
}

/** What is said with the way out beside it. */
const FLATTEN_OFFERED: ReadonlySet<OrderEvent['kind']> = new Set([
  'rejected',
  'turned',
  'left over',
  'not out',
]);

/** What happens by itself and cannot wait until somebody looks: the end of a trade, exits that the exchange refuses, a stop that ended, the line. */
const hasToBeKnown = (e: OrderEvent): boolean =>
  e.kind === 'trade over' ||
  e.kind === 'turned' ||
  e.kind === 'left over' ||
  e.kind === 'not out' ||
  e.kind === 'restless' ||
  e.kind === 'line' ||
  (e.kind === 'rejected' && e.role !== 'entry') ||
  (e.kind === 'expired' && e.bare > 0) ||
  (e.kind === 'rejected' && typeof e.why === 'object');

/** Asks the worker; a refusal is shown in the sentence strip and comes back as null. */
export async function ask<K extends Request['kind']>(
  request: Extract<Request, { kind: K }>,
): Promise<AnswerTo<K> | null> {
  try {
    return worker ? await worker.ask<K>(request) : null;
  } catch (e) {
    refused(request.kind, e instanceof Error ? e.message : String(e));
    return null;
  }
}

/** Says something in the sentence strip. */
export const say = (sayBack: SayBack): void => {
  const before = useSession.getState().sayBack;
  useSession.setState({ sayBack });
  const waits = sayBack.kind === 'confirm' ? sayBack.proposal.id : null;
  if ((before.kind === 'confirm' ? before.proposal.id : null) === waits) return;
  // What waits for a yes shows its numbers as they are.
  if (sayBack.kind === 'confirm')
    void watch('proposal', {
      kind: 'peeks',
      texts: [{ text: sayBack.proposal.text, symbol: sayBack.proposal.focus }],
      every: 150,
    });
  else void ask({ kind: 'unwatch', id: 'proposal' });
};
const refused = (text: string, problem: string) =>
  say({ kind: 'refused', text, problem, fixes: [], done: [], lasting: false });

/** Looks at something from now on, under a name. */
export const watch = (id: string, query: Query) => ask({ kind: 'watch', id, query });

/** How many look at what beside the focus, by the name of the watch. */
const lookers = new Map<string, number>();
/** Has something of a symbol told as long as somebody looks at it. @returns how to stop looking. */
export function lookAt(kind: 'symbol' | 'bars' | 'days' | 'earlier', symbol: string): () => void {
  const id = `${kind} ${symbol}`;
  const before = lookers.get(id) ?? 0;
  lookers.set(id, before + 1);
  if (before === 0) void watch(id, { kind, symbol });
  return () => {
    const left = (lookers.get(id) ?? 1) - 1;
    if (left > 0) return void lookers.set(id, left);
    lookers.delete(id);
    void ask({ kind: 'unwatch', id });
  };
}

/** The scan that a symbol was last brought into focus from. */
const cameFrom = new Map<string, string>();
function noteScan(symbol: string): void {
  const { table, symbols } = useSession.getState();
  const { shown, scans } = useSettings.getState();
  const scan = scans.find((s) => shown === `scan:${s.id}`);
  if (scan && symbols && table && [...table.who].some((i) => symbols[i] === symbol))
    cameFrom.set(symbol, scan.name);
}

/** What an act came of, for the records: its name, the scan that had the symbol in focus, its grade on the day's shortlist. */
function pressedBy(from: string): PressedBy {
  const { focus, clock } = useSession.getState();
  const symbol = focus?.symbol ?? '';
  const rows = useSettings.getState().shortlists.find((l) => l.date === clock?.date)?.rows;
  const grade = rows?.find((r) => r.symbol === symbol)?.grade;
  return { script: from, scan: cameFrom.get(symbol) ?? null, ...(grade ? { grade } : {}) };
}

/** Where something comes from; tools, and a line that is moved, ask only for what adds risk. */
/** `always`: it asks whatever the confirmations are set to. */
type Origin = keyof Settings['confirm'] | 'tools' | 'always';

/** The symbol that the trader sees in focus. */
const seenFocus = (): { seen: string } | object => {
  const symbol = useSession.getState().focus?.symbol;
  return symbol === undefined ? {} : { seen: symbol };
};

/** Why nothing can be done now; null once the session is there. */
function notReady(): string | null {
  const { phase, working, focus, takingIn, book, noRoom } = useSession.getState();
  if (phase === 'waiting') return 'Keen Fox is open in another tab: nothing is sent from this one.';
  if (phase === 'broken') return 'The session has stopped. Load the page again.';
  if (phase === 'starting' || takingIn !== null || focus === null || book === null)
    return 'The market is being set up: nothing is sent until it is there.';
  if (noRoom === 'waits') return 'There is no room on disk: nothing is sent until there is some.';
  return working === null ? null : `${working.what}: nothing is sent until that is over.`;
}

/** Says why nothing is done now. @returns whether something can be done. */
function isReady(text: string): boolean {
  const why = notReady();
  if (why !== null) refused(text, why);
  return why === null;
}

/**
 * A key, button or ticket was used. What adds risk waits for a yes where confirmations are on;
 * everything else goes at once. `meant`: what it stands for, as the trader answered.
 * @returns false when it was refused, so that what was typed may stay where it is.
 */
export async function act(
  text: string,
  origin: Origin,
  from: string,
  meant: Meant | null = null,
): Promise<boolean> {
  if (!isReady(text)) return false;
  const now = useSession.getState().sayBack;
  if (now.kind === 'confirm' && now.proposal.text === text) {
    await confirm();
    return true;
  }
  const asks =
    origin === 'tools' ? 'risk' : origin === 'always' ? 'always' : useSettings.getState().confirm[origin];
  const mine: Awaited = { answer: null };
  awaited = mine;
  const by = pressedBy(from);
  const answer = await ask({ kind: 'act', text, asks, by, cursor: pointer.price, ...seenFocus() });
  if (awaited === mine) awaited = null;
  if (answer?.kind === 'run') tell(text, now, answer, meant);
  else if (answer) {
    const early = mine.answer === 'yes' && answer.peeked.problem === null;
    const plain = early && isPlain(answer.peeked);
    say({
      kind: 'confirm',
      proposal: answer.peeked,
      peeked: answer.peeked,
      from,
      meant,
      ...(early && !plain ? { early: true } : {}),
    });
    if (plain) await confirm();
  }
  if (answer?.kind === 'peek' && mine.answer === 'no') discard();
  return answer !== null && (answer.kind !== 'run' || answer.result.problem === null);
}

/** Whether a yes that came before the answer may count: a close, or what was last shown, to the letter; without a warning and without a question. */
function isPlain(p: Peeked): boolean {
  if (p.asks.length > 0 || p.warnings.length > 0) return false;
  const { rack, keyPeeks, staged } = useSession.getState();
  const shown = [...(rack ?? []), ...(keyPeeks ?? []), ...(staged ?? [])];
  return (
    p.purpose === 'out' ||
    shown.some(
      (x) => x.text === p.text && x.focus === p.focus && x.sayBack.join('\n') === p.sayBack.join('\n'),
    )
  );
}

/** What a key asked for, until it is answered; and the yes or no of a hand that was faster. */
interface Awaited {
  answer: 'yes' | 'no' | null;
}
let awaited: Awaited | null = null;

/** Enter or Escape before what a key asks for has been answered: heard when it is. @returns whether something is awaited. */
export function answerAhead(answer: 'yes' | 'no'): boolean {
  if (awaited) awaited.answer = answer;
  return awaited !== null;
}

/** Something else is meant than the text that was pressed: it goes instead; `of`: that text, where it means this at any time. */
export const actInstead = (means: string, of: string | null): Promise<boolean> =>
  act(means, 'buttons', 'Instead', of === null ? null : { text: of, means });

/** Shows what a script would do now; nothing is sent. */
export async function peekAt(text: string, from: string): Promise<void> {
  if (!isReady(text)) return;
  const answer = await ask({ kind: 'peek', text, cursor: pointer.price, ...seenFocus() });
  if (answer) say({ kind: 'peek', peeked: answer.peeked, from });
}

/** Sends what waits in the sentence strip. */
export async function confirm(): Promise<void> {
  const now = useSession.getState().sayBack;
  if (!isReady(now.kind === 'confirm' ? now.proposal.text : 'move')) return;
  if (now.kind === 'confirm') await send(now.proposal);
  else if (now.kind === 'moving')
    await act(now.sends ?? `move order ${now.orderId} to ${formatPrice(now.price)}`, 'tools', 'Move');
  useSession.setState({ drag: null });
}

/** Drops what waits; nothing was sent. */
export function discard(): void {
  useSession.setState({ drag: null });
  say({ kind: 'idle' });
}

async function send(p: Proposal): Promise<void> {
  const before = useSession.getState().sayBack;
  const meant = before.kind === 'confirm' ? before.meant : null;
  tell(p.text, before, await ask({ kind: 'send', proposal: p.id }), meant);
}

function tell(text: string, before: SayBack, answer: AnswerTo<'run'> | null, meant: Meant | null): void {
  if (!answer) return;
  const { result } = answer;
  for (const d of result.desk) atDesk(d);
  if (result.problem !== null) {
    const { problem, fixes, done, lasting } = result;
    return say({ kind: 'refused', text, problem, fixes, done, lasting });
  }
  const now = useSession.getState().sayBack;
  // Something else waits for a yes by now: that it was done shows in the trade; the form is not taken from under the hand.
  if (
    now !== before &&
    (now.kind === 'moving' ||
      (now.kind === 'confirm' && (before.kind !== 'confirm' || now.proposal.id !== before.proposal.id)))
  )
    return;
  say({
    kind: 'done',
    lines: result.done,
    about: result.about,
    got: [...result.got, ...result.ended],
    warnings: result.warnings,
    back: result.back,
    idle: result.idle,
    at: result.at,
    meant,
  });
}

/** What a sentence leaves to the interface. */
function atDesk(d: DeskAct): void {
  const settings = useSettings.getState();
  switch (d.kind) {
    case 'extended':
      settings.set({ chartExtended: d.what === 'toggle' ? !settings.chartExtended : d.what === 'show' });
      return;
    case 'focus on':
      void focusOn(d.symbol);
      return;
    case 'chain':
      useSession.setState({ opened: '/options' });
      return;
    case 'clear drawings': {
      // What the levels were is known from before or from now, whichever of the two came first.
      const [was, are] = [levelsBefore, useSession.getState().desk?.levels ?? {}].map(
        (l) => l[d.symbol] ?? {},
      );
      useSession.setState({ cleared: { symbol: d.symbol, levels: { ...was, ...are } } });
      return;
    }
    // The list on screen: the table of the Scan, or the shortlist.
    case 'focus': {
      const { table, symbols } = useSession.getState();
      const list = [...(table?.who ?? [])].map((i) => symbols?.[i] ?? '');
      const at = list.indexOf(useSession.getState().focus?.symbol ?? '');
      const next = list[(at + (d.which === 'next' ? 1 : -1) + list.length) % list.length];
      if (next !== undefined) void focusOn(next);
    }
  }
}

/** Puts a symbol, or an option's underlying, into focus everywhere, and remembers it. What waits for a yes was meant for the old one and is dropped. */
export async function focusOn(name: string): Promise<void> {
  const symbol = rootOf(name);
  const { sayBack, focus } = useSession.getState();
  if (sayBack.kind === 'confirm' && focus?.symbol !== symbol) discard();
  noteScan(symbol);
  useSettings.getState().set({ focus: symbol });
  await ask({ kind: 'focus', symbol });
}

// At once, before the page comes to life: the market takes longest.
if (typeof window !== 'undefined') startSession();
