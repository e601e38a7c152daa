// Sentences of the trader: read against this moment, and done through the circuit; or only looked at.
import { setAlert } from '../core/alerts/index.ts';
import {
  explain,
  LANGUAGE_VERSION,
  parseScript,
  printTree,
  type Span,
  type Statement,
  withSentence,
} from '../core/language/index.ts';
import {
  type Broker,
  baredShares,
  eventText,
  type Intent,
  liveOrders,
  type OrderEvent,
  orderOf,
  protects,
  refusalText,
  wireOf,
} from '../core/orders/index.ts';
import {
  type Deed,
  isAnswered,
  type Question,
  questionText,
  type RunProblem,
  readStatement,
} from '../core/reading/index.ts';
import { symbolsOf } from '../core/triggers/index.ts';
import { type AccountId, formatPrice, type OrderId, signOf } from '../core/units/index.ts';
import { type Engine, feed } from './circuit.ts';
import { deskAfter } from './desk.ts';
import { gotOf } from './got.ts';
import type { PressedBy, SessionInput } from './log.ts';
import { runContext } from './moment.ts';
import { parsed } from './read-texts.ts';
import { DONE, type Ran, type RunResult } from './run-result.ts';
import type { State } from './state.ts';
import { sceneOf } from './view.ts';

/** Where the focus lies for the lines after a statement. */
export const focusAfter = (s: Statement, focus: string | null): string | null =>
  s.kind === 'focus' ? s.symbol : focus;

/** The whole text with each of the fixes of what is wrong with it first, by the symbols that trade. */
export const fixedTexts = (e: Engine, text: string): string[] =>
  (parseScript(text, (symbol) => e.market.has(symbol)).problems[0]?.fixes ?? []).map(
    (f) => text.slice(0, f.from) + f.text + text.slice(f.to),
  );

/** What puts another sentence where one stands: into the whole text, or into what is left of it from that sentence on. */
export const inText = (text: string, span: Span, left: boolean) => (sentence: string) =>
  withSentence(text, span, parsed(sentence).statements)
    .slice(left ? span.from : 0)
    .trimEnd();

/** Reads a script line by line against this moment, and does what it asks. */
export function runScript(
  e: Engine,
  input: Extract<SessionInput, { kind: 'run' }>,
  events: OrderEvent[],
): Ran {
  const { statements, spans, problems } = parsed(input.text);
  const wrong = problems[0];
  if (wrong) {
    const fixes = fixedTexts(e, input.text);
    return { result: { ...DONE, ok: false, problem: explain(wrong), fixes, lasting: true }, deeds: [] };
  }
  const { result, deeds } = blank();
  let focus = input.focus;
  for (const [k, statement] of statements.entries()) {
    focus = focusAfter(statement, focus);
    const about = { focus, cursor: input.cursor ?? null, yes: input.yes ?? [] };
    const problem = runLine(e, statement, about, events, { result, deeds });
    if (problem === null) continue;
    result.ok = false;
    result.problem = problem.text;
    // What was done stays done: what would go instead goes on from here.
    result.fixes = problem.lasting
      ? problem.fixes.map(inText(input.text, spans[k] as Span, k > 0))
      : problem.fixes;
    result.lasting = problem.lasting && k === 0;
    break;
  }
  result.got = gotOf(events);
  result.warnings.push(...unanswered(e, deeds));
  result.back = events.flatMap((x) => backOf(x, e.state.broker));
  result.idle = result.ok && deeds.length === 0;
  result.ended = events.filter((x) => x.kind === 'trade over').map(eventText);
  return { result, deeds };
}

/** What takes back that a stop was taken away, or went farther from the market. */
function backOf(x: OrderEvent, broker: Broker): string[] {
  if (x.orderId === null) return [];
  if (x.kind === 'canceled') return x.why === 'you' && x.bare > 0 ? [`put back order ${x.orderId}`] : [];
  const order = orderOf(broker, x.orderId);
  const farther =
    x.kind === 'moved' &&
    x.why === 'you' &&
    order !== undefined &&
    protects(order) &&
    x.side !== null &&
    signOf(x.side) * (x.to - x.from) > 0;
  return farther ? [`move order ${x.orderId} to ${formatPrice(x.from)}`] : [];
}

/** What was asked and could not be sent, or has not been answered, is not done yet. */
function unanswered({ state: { broker } }: Engine, deeds: readonly Deed[]): string[] {
  const sent = deeds.some((d) => d.kind === 'intent');
  if (sent && !broker.linked)
    return ['The line to the exchange is cut: this waits here and goes when the line stands again.'];
  const waits = sent && liveOrders(broker).some((o) => wireOf(o)?.pending);
  return waits ? ['Waits for the exchange’s answer.'] : [];
}

/** Nothing done yet. */
export const blank = (): Ran => ({
  result: { ...DONE, done: [], about: [], warnings: [], back: [], desk: [] },
  deeds: [],
});

/**
 * Reads one statement against this moment and does what it asks; what comes of it is added to `ran`.
 * @returns why it was not done. What lines before it did stands, also when this one fails for a reason that only a bug can cause. */
export function runLine(
  e: Engine,
  statement: Statement,
  about: {
    focus: string | null;
    cursor: number | null;
    account?: AccountId;
    byItself?: true;
    yes: readonly Question[];
  },
  events: OrderEvent[],
  { result, deeds }: Ran,
): Omit<RunProblem, 'reason'> | null {
  try {
    const ctx = runContext(e, about.focus, about.cursor, about.account);
    const { admit } = ctx;
    const reading = readStatement(
      statement,
      about.byItself ? { ...ctx, byItself: true, admit: (intent) => admit(ofItself(intent)) } : ctx,
    );
    if (reading.problem) return reading.problem;
    const open = reading.asks.find((q) => !isAnswered(q, about.yes));
    if (open) return { text: unasked(open, about.byItself), ...NO_FIX };
    let sent = 0;
    for (const read of reading.deeds) {
      const deed: Deed =
        about.byItself && read.kind === 'intent' ? { ...read, intent: ofItself(read.intent) } : read;
      if (deed.kind === 'intent') sent = e.state.broker.next.order;
      const no = perform(e, deed, events, sent);
      deeds.push(deed);
      if (deed.kind === 'desk') result.desk.push(deed.act);
      if (no !== null) return { text: no, ...NO_FIX };
    }
    result.done.push(reading.sayBack);
    result.about.push(reading.about);
    result.warnings.push(...reading.warnings);
    return null;
  } catch (err) {
    return {
      text: `This line could not be worked out: ${err instanceof Error ? err.message : String(err)}. Nothing of it was sent.`,
      ...NO_FIX,
    };
  }
}

export const NO_FIX = { fixes: [], lasting: false } as const;

/** What a question that nobody has answered comes to. */
const unasked = (q: Question, byItself = false): string =>
  byItself
    ? `Nobody was asked when this was set. ${questionText(q)} It was not done.`
    : `${questionText(q)} Press it again, and answer.`;

/** What waited and goes now: the guards on how fast a hand may send do not ask it. */
const ofItself = (i: Intent): Intent => (i.kind === 'entry' ? { ...i, byItself: true } : i);

/** Does one deed. `sent` is the number of the first order that the intent before it has sent. */
function perform(e: Engine, deed: Deed, events: OrderEvent[], sent: number): string | null {
  switch (deed.kind) {
    case 'intent': {
      for (const x of deed.intent.kind === 'pair' ? deed.intent.of : [deed.intent])
        if (x.kind === 'entry') e.market.watch(x.symbol);
      const refused = feed(e, deed, events);
      return refused && refusalText(refused);
    }
    case 'alert': {
      const { symbol, on } = deed.asked;
      if (on.kind === 'price' && symbol !== null) e.market.watch(symbol);
      e.state = { ...e.state, alerts: setAlert(e.state.alerts, deed.asked, deed.text, sceneOf(e.market)) };
      return null;
    }
    case 'desk':
      return null;
    case 'chain': {
      const { account, symbol, order } = deed;
      e.market.watch(symbol);
      const chain = {
        orderId: (sent + deed.nth) as OrderId,
        account,
        symbol,
        order,
        done: 0,
        total: null,
        sent: 0,
      };
      e.state = { ...e.state, desk: { ...e.state.desk, chains: [...e.state.desk.chains, chain] } };
      return null;
    }
    case 'wait':
      for (const s of symbolsOf(deed.trigger)) e.market.watch(s);
      e.state = deskAfter(e.state, deed, e.market.now());
      return null;
    default:
      e.state = deskAfter(e.state, deed, e.market.now());
      return null;
  }
}

/** What the log says that a script did, done again. */
export function again(e: Engine, deeds: Deed[], events: OrderEvent[]): Ran {
  const result: RunResult = { ...DONE };
  let sent = 0;
  for (const deed of deeds) {
    if (deed.kind === 'intent') sent = e.state.broker.next.order;
    result.problem = perform(e, deed.kind === 'intent' ? answered(e, deed) : deed, events, sent);
  }
  return { result, deeds };
}

/** What was done is done: logs of earlier versions asked nothing before the last stop of shares went. */
const answered = (e: Engine, { kind, intent }: Extract<Deed, { kind: 'intent' }>): Deed => {
  const bare = baredShares(e.state.broker, intent);
  return { kind, intent: bare.length > 0 ? ({ ...intent, bare } as Intent) : intent };
};

/** What is staged, as a sentence that can be read and changed. */
export const stagedText = (x: State['desk']['staged'][number]): string => printTree(x.statement);

/** An input that runs a text, with the version of the language that it is written in. */
export const runInput = (
  text: string,
  focus: string | null,
  cursor: number | null = null,
  by: PressedBy | undefined = undefined,
  yes: readonly Question[] = [],
): Extract<SessionInput, { kind: 'run' }> => ({
  kind: 'run',
  text,
  focus,
  cursor,
  language: LANGUAGE_VERSION,
  ...(by ? { by } : {}),
  ...(yes.length > 0 ? { yes } : {}),
});
