'use client';

import { formatPrice, type Price } from '@/core/units';
import type { PressedBy } from '@/session/log';
import type { Settings } from '@/store/settings';
import type { AnswerTo } from '@/worker/session/session-messages';
import type { Peeked } from '@/worker/session/slices';
import { useSettings } from '../settings';
import { atDesk, scanOf } from './desk-acts';
import { ask } from './link';
import { peeksShown } from './live';
import type { Meant, Move, Outcome, SayBack } from './say-back';
import { happened, refused, useSession } from './store';

/** Where something comes from. Tools, and a line that is moved, ask only for what adds risk; `always` asks whatever the confirmations are set to. */
type Origin = keyof Settings['confirm'] | 'tools' | 'always';

/** Where the pointer stands on the chart of the focus, in price units; null when it is elsewhere. */
export const pointer: { price: number | null } = { price: null };

/** What an act came of, for the records: its name, the scan that had the symbol in focus, its grade on the day's shortlist. */
function pressedBy(from: string): PressedBy {
  const { focus, clock } = useSession.getState();
  const symbol = focus?.symbol ?? '';
  const rows = useSettings.getState().shortlists.find((l) => l.date === clock?.date)?.rows;
  const grade = rows?.find((r) => r.symbol === symbol)?.grade;
  return { script: from, scan: scanOf(symbol), ...(grade ? { grade } : {}) };
}

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

let presses = 0;

/**
 * A key, button or ticket was used. What adds risk waits for a yes where confirmations are on; everything else goes at
 * once.
 * @param from what was used, by its name, for the say-back and the records
 * @param meant what the text stands for, as the trader answered
 * @returns what became of it, once that is known: of what waits for a yes when that is given or not
 */
export async function act(
  text: string,
  origin: Origin,
  from: string,
  meant: Meant | null = null,
): Promise<Outcome> {
  if (!isReady(text)) return 'refused';
  const before = useSession.getState().sayBack;
  if (before.kind === 'confirm' && before.proposal.text === text) return confirm();
  const press = ++presses;
  happened({ kind: 'pressed', press });
  const asks =
    origin === 'tools' ? 'risk' : origin === 'always' ? 'always' : useSettings.getState().confirm[origin];
  const by = pressedBy(from);
  const answer = await ask({ kind: 'act', text, asks, by, cursor: pointer.price, ...seenFocus() });
  if (!answer) {
    happened({ kind: 'unanswered', press });
    return 'refused';
  }
  if (answer.kind === 'run') return ran({ press, proposal: null, text, before, meant }, answer);
  const proposal = answer.peeked;
  const ahead = useSession.getState().awaited;
  const plain = isPlain(proposal);
  happened({ kind: 'asks', press, proposal, from, meant, plain });
  const yes = ahead?.press === press && ahead.answer === 'yes';
  return yes && plain && proposal.problem === null ? confirm() : settled(proposal.id);
}

/** Something was obeyed or refused: the interface does its part of it, and it is said. */
function ran(
  of: { press: number | null; proposal: number | null; text: string; before: SayBack; meant: Meant | null },
  { result }: AnswerTo<'run'>,
): Outcome {
  for (const d of result.desk) atDesk(d);
  happened({ kind: 'ran', ...of, result });
  return result.problem === null ? 'sent' : 'refused';
}

/** What becomes of a proposal that waits for a yes. */
const settled = (proposal: number): Promise<Outcome> =>
  new Promise((resolve) => {
    const look = ({ settled: s }: ReturnType<typeof useSession.getState>): boolean => {
      const outcome = s.get(proposal);
      if (outcome) resolve(outcome);
      return outcome !== undefined;
    };
    if (look(useSession.getState())) return;
    const stop = useSession.subscribe((s) => look(s) && stop());
  });

/** Whether a yes that came before the answer may count: a close, or what was last shown, to the letter; without a warning and without a question. */
function isPlain(p: Peeked): boolean {
  if (p.asks.length > 0 || p.warnings.length > 0) return false;
  const shown = peeksShown(useSession.getState());
  return (
    p.purpose === 'out' ||
    shown.some(
      (x) => x.text === p.text && x.focus === p.focus && x.sayBack.join('\n') === p.sayBack.join('\n'),
    )
  );
}

/** Enter or Escape before what a key asks for has been answered: heard when it is. @returns whether something is awaited. */
export function answerAhead(answer: 'yes' | 'no'): boolean {
  happened({ kind: 'answered ahead', answer });
  return useSession.getState().awaited !== null;
}

/** Something else is meant than the text that was pressed: it goes instead; `of`: that text, where it means this at any time. */
export const actInstead = (means: string, of: string | null): Promise<Outcome> =>
  act(means, 'buttons', 'Instead', of === null ? null : { text: of, means });

/** Shows what a script would do now; nothing is sent. */
export async function peekAt(text: string, from: string): Promise<void> {
  if (!isReady(text)) return;
  const answer = await ask({ kind: 'peek', text, cursor: pointer.price, ...seenFocus() });
  if (answer) happened({ kind: 'peeked', peeked: answer.peeked, from });
}

/** Shows an order that is moved by hand, for its exact price. */
export const showMove = (move: Move): void => happened({ kind: 'moves', ...move });

/** Sends what waits in the say-back. */
export async function confirm(): Promise<Outcome> {
  const now = useSession.getState().sayBack;
  if (!isReady(now.kind === 'confirm' ? now.proposal.text : 'move')) return 'refused';
  const outcome =
    now.kind === 'confirm' ? await send(now) : now.kind === 'moving' ? await move(now) : 'dropped';
  useSession.setState({ drag: null });
  return outcome;
}

async function send(waits: Extract<SayBack, { kind: 'confirm' }>): Promise<Outcome> {
  const { proposal, meant } = waits;
  // A second yes while the first is on its way is the same yes.
  if (waits.sending) return settled(proposal.id);
  happened({ kind: 'sending' });
  const before = useSession.getState().sayBack;
  const answer = await ask({ kind: 'send', proposal: proposal.id });
  if (!answer) {
    happened({ kind: 'unsent', proposal: proposal.id });
    return 'refused';
  }
  return ran({ press: null, proposal: proposal.id, text: proposal.text, before, meant }, answer);
}

const move = ({ orderId, price, sends }: { orderId: number; price: Price; sends?: string }) =>
  act(sends ?? `move order ${orderId} to ${formatPrice(price)}`, 'tools', 'Move');

/** Drops what waits; nothing was sent. */
export function discard(): void {
  useSession.setState({ drag: null });
  happened({ kind: 'dropped' });
}
