import fc from 'fast-check';
import type { OrderEvent } from '@/core/orders';
import type { OrderId, Price } from '@/core/units';
import { DONE, type RunResult } from '@/session/run-result';
import type { Proposal } from '@/worker/session/session-messages';
import { afterHappening, type Happening, NOTHING_SAID, type SayBackState } from './say-back';

const proposal = (id: number, over: Partial<Proposal> = {}): Proposal => ({
  id,
  text: `text ${id}`,
  focus: 'VULPN',
  sayBack: [],
  about: [],
  guesses: [],
  warnings: [],
  named: [],
  problem: null,
  fixes: [],
  lasting: false,
  retired: false,
  code: null,
  facts: null,
  of: 'VULPN',
  addsRisk: true,
  asks: [],
  purpose: 'in',
  ...over,
});
const asks = (press: number, id: number, plain = false): Happening => ({
  kind: 'asks',
  press,
  proposal: proposal(id),
  from: 'Key',
  meant: null,
  plain,
});
const ran = (state: SayBackState, of: Partial<Extract<Happening, { kind: 'ran' }>>): Happening => ({
  kind: 'ran',
  press: null,
  proposal: null,
  text: 'flatten',
  result: DONE,
  before: state.sayBack,
  meant: null,
  ...of,
});
const MOVE = { kind: 'moves', orderId: 3 as OrderId, price: 62_000 as Price, label: 'stop of 100' } as const;
const after = (...all: Happening[]): SayBackState => all.reduce(afterHappening, NOTHING_SAID);
const refused: RunResult = { ...DONE, ok: false, problem: 'There is no bid.', done: ['cancel order 3'] };
const overAt = (at: number, over: object = {}): OrderEvent =>
  ({
    id: 1,
    at,
    account: 'MAIN',
    symbol: 'VULPN',
    tradeId: 1,
    status: null,
    exec: 'OrderStatus',
    kind: 'turned',
    shares: 100,
    ...over,
  }) as OrderEvent;

test('a yes that was faster than the answer counts for what is plain, and is said not to for what is not', () => {
  const early = after(
    { kind: 'pressed', press: 1 },
    { kind: 'answered ahead', answer: 'yes' },
    asks(1, 7, false),
  );
  expect(early).toMatchObject({
    sayBack: { kind: 'confirm', early: true },
    awaited: null,
    settled: new Map(),
  });
  const plain = after(
    { kind: 'pressed', press: 1 },
    { kind: 'answered ahead', answer: 'yes' },
    asks(1, 7, true),
  );
  expect(plain.sayBack).toMatchObject({ kind: 'confirm', early: false });
  const no = after({ kind: 'pressed', press: 1 }, { kind: 'answered ahead', answer: 'no' }, asks(1, 7, true));
  expect(no).toMatchObject({ sayBack: { kind: 'idle' }, settled: new Map([[7, 'dropped']]) });
  // A yes belongs to the press that it followed, not to one before.
  const other = after(
    { kind: 'pressed', press: 1 },
    { kind: 'pressed', press: 2 },
    { kind: 'answered ahead', answer: 'yes' },
    asks(1, 7),
  );
  expect(other.sayBack).toMatchObject({ kind: 'confirm', early: false });
  expect(other.awaited).toEqual({ press: 2, answer: 'yes' });
  expect(after({ kind: 'answered ahead', answer: 'yes' }).awaited).toBeNull();
  expect(after({ kind: 'pressed', press: 1 }, { kind: 'unanswered', press: 1 }).awaited).toBeNull();
});

test('what was sent settles its proposal, as sent or refused; what is done says what it got', () => {
  const waits = after(asks(1, 7), { kind: 'sending' });
  const done = afterHappening(
    waits,
    ran(waits, { proposal: 7, result: { ...DONE, got: ['100 at 6.21'], ended: ['+$12'], at: 5 } }),
  );
  expect(done).toMatchObject({
    settled: new Map([[7, 'sent']]),
    sayBack: { kind: 'done', got: ['100 at 6.21', '+$12'], at: 5 },
  });
  expect(afterHappening(waits, { kind: 'unsent', proposal: 7 }).settled.get(7)).toBe('refused');
  const not = afterHappening(waits, ran(waits, { proposal: 7, result: refused }));
  expect(not).toMatchObject({
    settled: new Map([[7, 'refused']]),
    sayBack: { kind: 'refused', text: 'flatten', problem: 'There is no bid.', done: ['cancel order 3'] },
  });
});

test('a form or another question under the hand is not taken away by what was done meanwhile', () => {
  const before = after();
  const form = after(MOVE);
  expect(afterHappening(form, ran(before, {})).sayBack).toBe(form.sayBack);
  const question = after(asks(1, 8));
  expect(afterHappening(question, ran(before, { press: 2 })).sayBack).toBe(question.sayBack);
  // A refusal always shows: nothing was done.
  expect(afterHappening(form, ran(before, { result: refused })).sayBack.kind).toBe('refused');
  // What was moved itself is done with.
  expect(afterHappening(form, ran(form, {})).sayBack.kind).toBe('done');
});

test('what waits for a yes does not outlive its focus', () => {
  const waits = after(asks(1, 7));
  expect(afterHappening(waits, { kind: 'focus', symbol: 'VULPN' })).toBe(waits);
  expect(afterHappening(waits, { kind: 'focus', symbol: 'ORBNT' })).toMatchObject({
    sayBack: {
      kind: 'refused',
      text: 'text 7',
      problem: 'This was meant for VULPN; ORBNT is in focus now. Press the key again.',
    },
    settled: new Map([[7, 'dropped']]),
  });
  const peek = after({ kind: 'peeked', peeked: proposal(1), from: 'Key' });
  expect(afterHappening(peek, { kind: 'focus', symbol: 'ORBNT' })).toBe(peek);
});

test('what happened by itself is told with the way out, unless something waits or it was told already', () => {
  const told = after({ kind: 'events', events: [overAt(9)] });
  expect(told.sayBack).toMatchObject({ kind: 'told', flatten: 'VULPN' });
  const over = { kind: 'trade over', gross: 0, costs: 0, risk: null, averageExit: 0 };
  expect(after({ kind: 'events', events: [overAt(9), overAt(10, over)] }).sayBack).toMatchObject({
    kind: 'told',
    flatten: null,
  });
  const fill = overAt(9, { exec: 'Trade', kind: 'fill', price: 1, qty: 1 });
  expect(after({ kind: 'events', events: [fill] }).sayBack.kind).toBe('idle');
  for (const quiet of [
    overAt(9, { kind: 'rejected', role: 'entry', why: 'halt', bare: 0 }),
    overAt(9, { kind: 'expired', why: 'day over', bare: 0 }),
  ])
    expect(after({ kind: 'events', events: [quiet] }).sayBack.kind).toBe('idle');
  const bare = overAt(9, { kind: 'expired', role: 'stop', why: 'day over', bare: 100, shares: 100 });
  expect(after({ kind: 'events', events: [bare] }).sayBack).toMatchObject({ kind: 'told', flatten: null });
  const waits = after(asks(1, 7));
  expect(afterHappening(waits, { kind: 'events', events: [overAt(9)] })).toBe(waits);
  const done = afterHappening(after(), ran(after(), { result: { ...DONE, at: 9 } }));
  expect(afterHappening(done, { kind: 'events', events: [overAt(9)] })).toBe(done);
  expect(afterHappening(done, { kind: 'events', events: [overAt(10)] }).sayBack.kind).toBe('told');
});

test('whatever happens: a proposal that left the screen without a yes was dropped, one with a yes never is', () => {
  const happening = (state: SayBackState, pick: number, n: number): Happening => {
    const waits = state.sayBack.kind === 'confirm' ? state.sayBack : null;
    const all: Happening[] = [
      { kind: 'pressed', press: n },
      { kind: 'answered ahead', answer: n % 2 ? 'yes' : 'no' },
      asks(n, 1_000 + n, n % 3 === 0),
      { kind: 'sending' },
      { kind: 'dropped' },
      { kind: 'refused', text: 'x', problem: 'y' },
      { kind: 'peeked', peeked: proposal(n), from: 'Key' },
      MOVE,
      { kind: 'notice', text: 'x' },
      { kind: 'focus', symbol: n % 2 ? 'VULPN' : 'ORBNT' },
      { kind: 'events', events: [overAt(n)] },
      ran(state, { proposal: waits?.sending ? waits.proposal.id : null, result: n % 2 ? DONE : refused }),
    ];
    return all[pick % all.length] as Happening;
  };
  fc.assert(
    fc.property(fc.array(fc.nat(11), { maxLength: 60 }), (picks) => {
      let state = NOTHING_SAID;
      picks.forEach((pick, n) => {
        const was = state.sayBack;
        state = afterHappening(state, happening(state, pick, n));
        const now = state.sayBack;
        const left =
          was.kind === 'confirm' && !(now.kind === 'confirm' && now.proposal.id === was.proposal.id);
        if (!left) return;
        const outcome = state.settled.get(was.proposal.id);
        if (was.sending) expect(outcome).not.toBe('dropped');
        else expect(outcome).toBe('dropped');
      });
    }),
  );
});
