import { explain, type Span } from '../core/language/index.ts';
import { refusalText } from '../core/orders/index.ts';
import { type Deed, type Reading, type RunContext, readStatement } from '../core/reading/index.ts';
import { brokerContext, type Engine } from './circuit.ts';
import { deskAfter } from './desk.ts';
import { guessStep } from './guess.ts';
import { runContext } from './moment.ts';
import { parsed } from './read-texts.ts';
import { fixedTexts, focusAfter, inText, NO_FIX } from './scripts.ts';
import type { State } from './state.ts';

/** One line of a peek. */
export interface Peek extends Reading {
  /** It depends on what the exchange makes of the lines before it: on fills, or on the quote that they leave. */
  guess: boolean;
}

/** A peek at a whole text. */
interface Peeking {
  lines: Peek[];
  problem: string | null;
  /** Texts that would go instead. */
  fixes: readonly string[];
  /** They say what the text means at any time, and in whole: they may be kept in its key. */
  lasting: boolean;
  retired: boolean;
}

/**
 * What a script would do now, without doing it: each line is read by the function that runs it, after
 * what the lines before it would bring about at an exchange that fills what reaches its quote.
 */
export function peek(e: Engine, text: string, focus: string | null, cursor: number | null = null): Peeking {
  const { statements, spans, problems, retired } = parsed(text);
  const wrong = problems[0];
  if (wrong)
    return { lines: [], problem: explain(wrong), fixes: fixedTexts(e, text), lasting: true, retired };
  const lines: Peek[] = [];
  let scratch = e;
  let guess = false;
  let sent = false;
  let about = focus;
  for (const [k, statement] of statements.entries()) {
    about = focusAfter(statement, about);
    const { context, looked } = watchingQuotes(runContext(scratch, about, cursor));
    const reading = readStatement(statement, context);
    guess ||= sent && looked();
    const whole = inText(text, spans[k] as Span, false);
    const asks = reading.asks.map((q) => ('instead' in q ? { ...q, instead: q.instead.map(whole) } : q));
    lines.push({ ...reading, asks, guess });
    if (reading.problem) {
      const { text: problem, fixes, lasting } = reading.problem;
      return { lines, problem, fixes: lasting ? fixes.map(whole) : fixes, lasting, retired };
    }
    if (k === statements.length - 1 && reading.deeds.length < 2) break;
    const after = wouldBe(scratch, reading.deeds);
    guess ||= after.fills;
    sent ||= after.sends;
    if (after.refused !== null) return { lines, problem: after.refused, ...NO_FIX, retired };
    scratch = { market: e.market, state: after.state };
  }
  return { lines, problem: null, ...NO_FIX, retired };
}

/** A moment that knows whether anybody has asked it for a quote. */
function watchingQuotes(c: RunContext): { context: RunContext; looked(): boolean } {
  let asked = false;
  const view = (symbol: string) => {
    const v = c.view(symbol);
    return (
      v && {
        ...v,
        get quote() {
          asked = true;
          return v.quote;
        },
      }
    );
  };
  return { context: { ...c, view }, looked: () => asked };
}

/** The trader's side after some deeds, as far as that can be known without doing them. */
function wouldBe(
  e: Engine,
  deeds: readonly Deed[],
): { state: State; fills: boolean; sends: boolean; refused: string | null } {
  let { state } = e;
  let fills = false;
  let sends = false;
  for (const deed of deeds) {
    if (deed.kind === 'alert' || deed.kind === 'desk' || deed.kind === 'chain') continue;
    if (deed.kind !== 'intent') {
      state = deskAfter(state, deed, e.market.now());
      continue;
    }
    const now = { market: e.market, state };
    const step = guessStep(state.broker, deed, brokerContext(now), (s) => e.market.status(s));
    if (step.refused) return { state, fills, sends, refused: refusalText(step.refused) };
    fills ||= step.fills;
    sends ||= step.sends;
    state = { ...state, broker: step.broker };
  }
  return { state, fills, sends, refused: null };
}
