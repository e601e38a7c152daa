import type { Statement, TreeOf } from '../language/index.ts';
import { clausesIn, printTree } from '../language/index.ts';
import { dayOf, unreachable } from '../units/index.ts';
import { inAccount, readLocate, readUseAccount } from './accounts.ts';
import { readAttach } from './attach.ts';
import { readCancelAll, readCancelLast, readCancelOrder, readCancelSome, readPutBack } from './cancels.ts';
import { readClose, readFlatten } from './closes.ts';
import { readAlert, readClear, readLevel, readSize } from './desk-words.ts';
import { readEntry } from './entries.ts';
import { viewOf } from './instruments.ts';
import { mend } from './mend.ts';
import { emptyReading, problemOf, type Reading, Refused, type RunContext, refuse } from './moment.ts';
import { readMoveAll, readMoveOrder, readMoveStop, readReplace } from './moves.ts';
import { readOneOf } from './pairs.ts';
import { readReverse } from './reverse.ts';
import { readWaitingOrder, readWhen } from './waits.ts';

/**
 * Reads one statement against this moment: what it would do, or why not. Key, button, peek, say-back
 * and tests all use this function; sending comes after. It never throws for anything that was written.
 */
export function readStatement(s: Statement, c: RunContext): Reading {
  const out = emptyReading(s);
  try {
    const own = inAccount(s, c);
    meaning(s, own, out);
    guard(own, out);
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    const instead = e.fixes.length > 0 ? null : mend(s, e.reason, c);
    out.problem = problemOf(instead ? new Refused(e.reason, [instead]) : e);
    out.deeds = [];
  }
  return out;
}

/** The guards at the door, asked beforehand. What a line does first may open the door for what it does next, so only its first intent is asked, and what turns a position: that must not be flattened in vain. */
function guard(c: RunContext, out: Reading): void {
  const intents = out.deeds.flatMap((d) => (d.kind === 'intent' ? [d.intent] : []));
  for (const [k, intent] of intents.entries()) {
    const no = k === 0 || (intent.kind === 'entry' && intent.afterFlat) ? c.admit(intent) : null;
    if (no && no.code !== 'bares') refuse(no);
  }
  // What would take the last stop of shares away is asked about; its deed is that of a yes.
  out.deeds = out.deeds.map((deed) => {
    const no = deed.kind === 'intent' ? c.admit(deed.intent) : null;
    if (deed.kind !== 'intent' || no?.code !== 'bares') return deed;
    out.asks.push(...no.bares.map((x) => ({ kind: 'bares', ...x }) as const));
    return { ...deed, intent: { ...deed.intent, bare: no.bares } as typeof deed.intent };
  });
}

function meaning(s: Statement, c: RunContext, out: Reading): void {
  switch (s.kind) {
    case 'enter':
    case 'add':
      return readEntry(s, c, out);
    case 'close':
      return readClose(s, c, out);
    case 'reverse':
      return readReverse(s, c, out);
    case 'move stop':
      return readMoveStop(s, c, out);
    case 'move order':
      return readMoveOrder(s, c, out);
    case 'move all':
    case 'move all to':
      return readMoveAll(s, c, out);
    case 'replace last':
    case 'replace order':
      return readReplace(s, c, out);
    case 'cancel last':
      return readCancelLast(s, c, out);
    case 'cancel order':
      return readCancelOrder(s, c, out);
    case 'put back':
      return readPutBack(s, c, out);
    case 'cancel some':
      return readCancelSome(s, c, out);
    case 'cancel symbol':
    case 'cancel everything':
      return readCancelAll(s, c, out);
    case 'flatten':
    case 'flatten everything':
      return readFlatten(s, c, out);
    case 'attach':
    case 'attach plan':
      return readAttach(s, c, out);
    case 'staged':
      return readStaged(s, c, out);
    case 'tell':
      out.symbol = viewOf(s.symbol, c).symbol;
      out.about = 'tells once its condition has come';
      return;
    case 'alert when':
      return ofFields(s) ? readAlert(s, c, out) : readWhen(telling(s), c, out, readStatement);
    case 'alert':
    case 'alert on':
    case 'alert any when':
    case 'alert any on':
      return readAlert(s, c, out);
    case 'level':
    case 'sloping level':
    case 'drop level':
      return readLevel(s, c, out);
    case 'open chain':
      out.symbol = viewOf(null, c).symbol;
      out.deeds.push({ kind: 'desk', act: { kind: 'chain' } });
      return;
    case 'clear drawings':
      return readClear(c, out);
    case 'use account':
      return readUseAccount(s, c, out);
    case 'locate':
      return readLocate(s, c, out);
    case 'size':
      return readSize(s, c, out);
    case 'note': {
      out.symbol = viewOf(null, c).symbol;
      out.deeds.push({ kind: 'note', symbol: out.symbol, text: s.text });
      return;
    }
    case 'extended':
      out.deeds.push({ kind: 'desk', act: { kind: 'extended', what: s.what } });
      return;
    case 'focus next':
      out.deeds.push({ kind: 'desk', act: { kind: 'focus', which: s.which } });
      return;
    case 'when':
      return readWhen(s, c, out, readStatement);
    case 'one of':
      return readOneOf(s, c, out, readStatement);
    case 'waiting order':
      return readWaitingOrder(s, c, out);
    case 'focus':
      out.symbol = viewOf(s.symbol, c).symbol;
      out.deeds.push({ kind: 'desk', act: { kind: 'focus on', symbol: s.symbol } });
      return;
    default:
      return unreachable(s);
  }
}

/** Whether an alert waits for nothing but fields of its own symbol, and for as long as it takes. */
const ofFields = (s: TreeOf<'alert when'>): boolean =>
  s.until === null && clausesIn(s.condition).every((x) => 'field' in x && x.symbol === null);

/** An alert on prices, gains or times is a condition that tells. */
const telling = ({ symbol, condition, until }: TreeOf<'alert when'>): TreeOf<'when'> => ({
  kind: 'when',
  newly: false,
  condition,
  until,
  actions: [{ kind: 'tell', symbol }],
});

/** Sends, or drops, what is staged: each sentence is read at this moment. Finding nothing to drop succeeds. */
function readStaged(s: TreeOf<'staged'>, c: RunContext, out: Reading): void {
  const { whose } = s;
  const symbol =
    whose?.kind === 'everything' || whose?.kind === 'staged order'
      ? null
      : viewOf(whose?.symbol ?? null, c).symbol;
  const chosen = c.staged.filter((x) =>
    whose?.kind === 'staged order' ? x.id === whose.number : symbol === null || x.symbol === symbol,
  );
  out.symbol = symbol;
  if (chosen.length === 0) {
    if (s.what === 'send') refuse({ code: 'nothing staged', symbol });
    out.about = symbol === null ? 'nothing is staged' : `nothing is staged for ${symbol}`;
    return;
  }
  out.deeds.push({ kind: 'unstage', ids: chosen.map((x) => x.id) });
  if (s.what === 'discard') {
    out.about = `${chosen.length} dropped`;
    return;
  }
  const said: string[] = [];
  for (const x of chosen) {
    const days = dayOf(c.now) - dayOf(x.at);
    if (days > 0 && !c.byItself)
      out.asks.push({ kind: 'staged before', id: x.id, symbol: x.symbol, days, at: x.at });
    const one = readStatement(x.statement, c);
    if (one.problem) throw new Refused(one.problem.reason, []);
    out.deeds.push(...one.deeds);
    out.warnings.push(...one.warnings);
    out.asks.push(...one.asks);
    out.named.push(...one.named);
    out.facts ??= one.facts;
    said.push(one.sayBack);
  }
  out.sayBack = said.join('\n');
  out.about = printTree(s);
}
