// The say-back as a machine: what it shows follows from what has happened, and from nothing else.
import { eventText, type OrderEvent } from '@/core/orders';
import type { OrderId, Price } from '@/core/units';
import type { RunResult } from '@/session/run-result';
import type { Proposal } from '@/worker/session/session-messages';
import type { Peeked } from '@/worker/session/slices';

/** What a text that was pressed means, as the trader answered. */
export interface Meant {
  text: string;
  means: string;
}

/** An order that is moved by hand; `sends`: the sentence that goes, where it is more than another price. */
export interface Move {
  orderId: OrderId;
  price: Price;
  label: string;
  sends?: string;
}

/** What is shown. */
export type SayBack =
  | { kind: 'idle' }
  | { kind: 'peek'; peeked: Peeked; from: string }
  /** Waits for a yes. `early`: a yes came before this was there and does not count. `sending`: the yes was given. */
  | {
      kind: 'confirm';
      proposal: Proposal;
      from: string;
      meant: Meant | null;
      early: boolean;
      sending: boolean;
    }
  | ({ kind: 'moving' } & Move)
  | {
      kind: 'done';
      lines: string[];
      about: string[];
      got: string[];
      warnings: string[];
      back: string[];
      idle: boolean;
      /** Session time, by which what else happened then is known to be part of it. */
      at: number;
      /** The text that was pressed, where another was meant that went now: its key may keep that. */
      meant: Meant | null;
    }
  /** Something that happened by itself and has to be known; `flatten`: the symbol whose way out stands beside it. */
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

/** What became of something that was to be done. */
export type Outcome = 'sent' | 'dropped' | 'refused';

/** All that the machine remembers. */
export interface SayBackState {
  sayBack: SayBack;
  /** The press that is not answered yet, and the yes or no of a hand that was faster than the answer. */
  awaited: { press: number; answer: 'yes' | 'no' | null } | null;
  /** What became of the proposals that were settled last, by their numbers. */
  settled: ReadonlyMap<number, Outcome>;
}

export const NOTHING_SAID: SayBackState = { sayBack: { kind: 'idle' }, awaited: null, settled: new Map() };

/** What can happen. */
export type Happening =
  /** Something was pressed and is being asked about. */
  | { kind: 'pressed'; press: number }
  /** Enter or Escape before the press was answered. */
  | { kind: 'answered ahead'; answer: 'yes' | 'no' }
  /** The press is answered: what it would do waits for a yes. `plain`: a yes that came before counts. */
  | { kind: 'asks'; press: number; proposal: Proposal; from: string; meant: Meant | null; plain: boolean }
  /** The worker could not be asked, or refused to answer: of a press, or of a proposal that was sent. */
  | { kind: 'unanswered'; press: number }
  | { kind: 'unsent'; proposal: number }
  /** The yes for what waits was given. */
  | { kind: 'sending' }
  /** It was obeyed or refused; `before`: what was shown when it was pressed; `proposal`: that which was sent. */
  | {
      kind: 'ran';
      press: number | null;
      proposal: number | null;
      text: string;
      result: RunResult;
      before: SayBack;
      meant: Meant | null;
    }
  | { kind: 'refused'; text: string; problem: string }
  | { kind: 'peeked'; peeked: Peeked; from: string }
  | ({ kind: 'moves' } & Move)
  /** The trader lets go of what is shown. */
  | { kind: 'dropped' }
  /** The symbol in focus, after something was told. */
  | { kind: 'focus'; symbol: string }
  | { kind: 'notice'; text: string }
  /** What the session has told of the trader's orders. */
  | { kind: 'events'; events: readonly OrderEvent[] };

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

const refusal = (text: string, problem: string): SayBack => ({
  kind: 'refused',
  text,
  problem,
  done: [],
  fixes: [],
  lasting: false,
});

/** How many settled proposals are remembered. */
const SETTLED_KEPT = 20;
function settling(state: SayBackState, proposal: number, outcome: Outcome): SayBackState {
  const settled = new Map([...state.settled, [proposal, outcome] as const].slice(-SETTLED_KEPT));
  return { ...state, settled };
}

/** Shows something else. What waited for a yes, and was not being sent, is dropped by that. */
function showing(state: SayBackState, sayBack: SayBack): SayBackState {
  const was = state.sayBack;
  const leaves =
    was.kind === 'confirm' &&
    !was.sending &&
    !(sayBack.kind === 'confirm' && sayBack.proposal.id === was.proposal.id);
  return { ...(leaves ? settling(state, was.proposal.id, 'dropped') : state), sayBack };
}

/** The state after something has happened. */
export function afterHappening(state: SayBackState, h: Happening): SayBackState {
  switch (h.kind) {
    case 'pressed':
      return { ...state, awaited: { press: h.press, answer: null } };
    case 'answered ahead':
      return state.awaited ? { ...state, awaited: { ...state.awaited, answer: h.answer } } : state;
    case 'unanswered':
      return answered(state, h.press);
    case 'unsent':
      return settling(state, h.proposal, 'refused');
    case 'asks':
      return asked(state, h);
    case 'sending':
      return state.sayBack.kind === 'confirm'
        ? { ...state, sayBack: { ...state.sayBack, sending: true } }
        : state;
    case 'ran':
      return ran(state, h);
    case 'refused':
      return showing(state, refusal(h.text, h.problem));
    case 'peeked':
      return showing(state, { kind: 'peek', peeked: h.peeked, from: h.from });
    case 'moves':
      return showing(state, { ...h, kind: 'moving' });
    case 'dropped':
      return showing(state, { kind: 'idle' });
    case 'notice':
      return showing(state, { kind: 'told', text: h.text, flatten: null });
    case 'focus':
      return lookedElsewhere(state, h.symbol);
    case 'events':
      return toldOf(state, h.events);
  }
}

/** The press is awaited no more; a later one may be. */
const answered = (state: SayBackState, press: number | null): SayBackState =>
  state.awaited?.press === press ? { ...state, awaited: null } : state;

function asked(state: SayBackState, h: Extract<Happening, { kind: 'asks' }>): SayBackState {
  const ahead = state.awaited?.press === h.press ? state.awaited.answer : null;
  const { proposal, from, meant } = h;
  const early = ahead === 'yes' && proposal.problem === null && !h.plain;
  const shown = showing(answered(state, h.press), {
    kind: 'confirm',
    proposal,
    from,
    meant,
    early,
    sending: false,
  });
  return ahead === 'no' ? showing(shown, { kind: 'idle' }) : shown;
}

function ran(state: SayBackState, h: Extract<Happening, { kind: 'ran' }>): SayBackState {
  const { result, before } = h;
  const { problem, done, fixes, lasting } = result;
  const outcome = problem === null ? 'sent' : 'refused';
  const next = h.proposal === null ? answered(state, h.press) : settling(state, h.proposal, outcome);
  if (problem !== null)
    return showing(next, { kind: 'refused', text: h.text, problem, fixes, done, lasting });
  const now = next.sayBack;
  // Something else waits for a yes by now: that it was done shows in the trade; the form is not taken from under the hand.
  const taken =
    now.kind === 'moving' ||
    (now.kind === 'confirm' && !(before.kind === 'confirm' && now.proposal.id === before.proposal.id));
  if (taken && now !== before) return next;
  return showing(next, {
    kind: 'done',
    lines: done,
    about: result.about,
    got: [...result.got, ...result.ended],
    warnings: result.warnings,
    back: result.back,
    idle: result.idle,
    at: result.at,
    meant: h.meant,
  });
}

/** What waits for a yes was meant for the symbol that was in focus: it does not outlive it, also where the answer came after the click. */
function lookedElsewhere(state: SayBackState, symbol: string): SayBackState {
  const { sayBack } = state;
  if (sayBack.kind !== 'confirm' || sayBack.proposal.focus === symbol) return state;
  const { text, focus } = sayBack.proposal;
  return showing(
    state,
    refusal(text, `This was meant for ${focus}; ${symbol} is in focus now. Press the key again.`),
  );
}

/** What ended by itself says what it came to, where nothing else waits for a yes. */
function toldOf(state: SayBackState, events: readonly OrderEvent[]): SayBackState {
  const over = events.filter(hasToBeKnown);
  const last = over[over.length - 1];
  const { sayBack } = state;
  if (!last || (sayBack.kind === 'done' && sayBack.at === last.at)) return state;
  if (sayBack.kind !== 'idle' && sayBack.kind !== 'done' && sayBack.kind !== 'told') return state;
  const flatten = FLATTEN_OFFERED.has(last.kind) ? last.symbol : null;
  return showing(state, { kind: 'told', text: eventText(last), flatten });
}
