import { DEFAULT_ACCOUNT, DEFAULT_FEES, MAIN, totalOf } from '../../core/account/index.ts';
import type { TradeRecord } from '../../core/review/index.ts';
import type { OwnDay } from '../../core/sim/index.ts';
import { moneyFromDollars } from '../../core/units/index.ts';
import type { Clock, Store } from '../../session/ports.ts';
import { memoryStore } from '../../store/memory-store.ts';
import { mergeBook } from '../../ui/client/book.ts';
import { host } from './host.ts';
import {
  keyOf,
  type Question,
  type QuestionAnswers,
  type QuestionOf,
  type Reply,
  STANDING,
} from './questions.ts';
import type { Answer, FromWorker, Request, RunUntil } from './session-messages.ts';
import type { BookSlice, TableAsked } from './slices.ts';

/** A host on a clock that the test turns, with everything it tells written down. */
async function setUp(store: Store, perLook = 0) {
  const heard: (FromWorker | { kind: 'stored' })[] = [];
  let wall = 0;
  /** Trades as they are kept for review. */
  const kept = new Map<string, TradeRecord>();
  let onTick = () => {};
  const clock: Clock = {
    // A clock on which each look costs some time, so that long work comes in pieces.
    now: () => {
      wall += perLook;
      return wall;
    },
    every(_ms, task) {
      onTick = task;
      return () => {};
    },
    breathe: () => new Promise(setImmediate),
  };
  const watched: Store = {
    ...store,
    async append(attempt, entries, trades = []) {
      await store.append(attempt, entries);
      for (const t of trades) kept.set(t.ref, t);
      heard.push({ kind: 'stored' });
    },
  };
  const send = await host(
    { store: watched, clock, tell: (m) => heard.push(m), starts: async () => null },
    { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 },
  );
  let id = 0;
  const settled = async (mine: number) => {
    while (!heard.some((m) => (m.kind === 'answer' || m.kind === 'failed') && m.id === mine))
      await new Promise(setImmediate);
    return heard.find((m) => (m.kind === 'answer' || m.kind === 'failed') && m.id === mine);
  };
  const set = {
    heard,
    kept,
    store,
    async ask(request: Request): Promise<Answer | string> {
      send({ id: ++id, request });
      const m = await settled(id);
      return m?.kind === 'answer' ? m.answer : m?.kind === 'failed' ? m.message : '';
    },
    async run(seconds: number) {
      for (let t = 0; t < seconds * 1000; t += 40) {
        wall += 40;
        onTick();
        await this.ask({ kind: 'peek', text: 'flatten' });
      }
    },
    /** What a question was answered with last. */
    reply<K extends Question['kind']>(question: QuestionOf<K>): Reply<K> | undefined {
      const key = keyOf(question);
      const replies = heard.flatMap((m) => (m.kind === 'update' && m.replies[key] ? [m.replies[key]] : []));
      return replies[replies.length - 1] as Reply<K> | undefined;
    },
    latest<K extends keyof typeof STANDING>(
      name: K,
    ): QuestionAnswers[(typeof STANDING)[K]['kind']] | undefined {
      const reply = this.reply(STANDING[name] as QuestionOf<(typeof STANDING)[K]['kind']>);
      return reply?.ok ? reply.answer : undefined;
    },
  };
  await set.ask({ kind: 'subscribe', questions: Object.values(STANDING) });
  return set;
}

/** What of an update concerns the trader's orders and trades. */
const bookIn = (m: FromWorker | { kind: 'stored' }): BookSlice | undefined => {
  const reply =
    m.kind === 'update' ? (m.replies[keyOf(STANDING.book)] as Reply<'book'> | undefined) : undefined;
  return reply?.ok ? reply.answer : undefined;
};

const BUY = 'buy 100 of VULPN at ask + 3c extended\n stop 30c';

test('an order is told only after it is stored; a second host on the same store goes on from there', async () => {
  const store = memoryStore();
  const one = await setUp(store);
  const before = one.heard.length;
  expect(await one.ask({ kind: 'run', text: BUY })).toMatchObject({ kind: 'run', result: { ok: true } });
  const after = one.heard.slice(before);
  const stored = after.findIndex((m) => m.kind === 'stored');
  const told = after.findIndex((m) => bookIn(m) !== undefined);
  expect(stored).toBeGreaterThanOrEqual(0);
  expect(told).toBeGreaterThan(stored);
  await one.ask({ kind: 'speed', speed: 20 });
  await one.run(3);
  const two = await setUp(store);
  expect(two.latest('book')?.trades[0]?.entered).toBe(100);
  expect(two.latest('clock')?.speed).toBe(0);
  expect(two.latest('clock')?.now).toBeGreaterThan(9.18 * 3_600_000);
});

test('when storing fails the order is not shown as accepted and the session stops, saying why', async () => {
  const store = memoryStore();
  const full = { ...store, append: () => Promise.reject(new Error('the disk is full')) };
  const h = await setUp(full);
  expect(await h.ask({ kind: 'run', text: BUY })).toContain('the disk is full');
  expect(h.latest('book')?.trades).toEqual([]);
  await new Promise(setImmediate);
  expect(h.heard[h.heard.length - 1]).toMatchObject({ kind: 'broken' });
  expect((await setUp(store)).latest('book')?.trades).toEqual([]);
});

test('a proposal that was made in one account is not sent in another', async () => {
  const h = await setUp(memoryStore());
  const shown = (await h.ask({ kind: 'peek', text: BUY })) as { peeked: { id: number } };
  await h.ask({ kind: 'run', text: 'use account "Practice cash"' });
  expect(await h.ask({ kind: 'send', proposal: shown.peeked.id })).toMatchObject({
    result: { ok: false, problem: expect.stringContaining('This was meant for “Practice margin”') },
  });
  expect(h.latest('book')?.trades).toEqual([]);
});

test('money and marks of a paused desk are those of its moment: a reload shows the same', async () => {
  const store = memoryStore();
  const h = await setUp(store);
  await h.ask({ kind: 'run', text: BUY });
  for (let k = 0; k < 6; k++) {
    await h.ask({ kind: 'speed', speed: 20 });
    await h.run(0.48);
    await h.ask({ kind: 'speed', speed: 0 });
    const again = await setUp(store);
    expect(h.latest('account')).toEqual(again.latest('account'));
    expect(h.latest('marks')?.last).toEqual(again.latest('marks')?.last);
  }
});

test('time runs at the asked speed, stops when paused, and jumps to the open', async () => {
  const h = await setUp(memoryStore());
  const now = () => h.latest('clock')?.now ?? 0;
  const start = now();
  await h.ask({ kind: 'speed', speed: 5 });
  await h.run(4);
  expect(Math.abs(now() - start - 20_000)).toBeLessThanOrEqual(1_000);
  await h.ask({ kind: 'speed', speed: 0 });
  const paused = now();
  await h.run(2);
  expect(now()).toBe(paused);
  await h.ask({ kind: 'jump', to: 9.5 * 3_600_000 });
  await h.run(8);
  expect(now()).toBe(9.5 * 3_600_000);
  expect(h.latest('clock')?.session).toBe('regular');
});

const TABLE: TableAsked = {
  source: {
    kind: 'scan',
    rule: 'gap > 8% and float < 20M',
    ranking: [{ field: 'gap', weight: 1 }],
    from: 240,
    to: 1200,
    limit: 50,
    hidden: [],
  },
  columns: ['price', 'gap'],
  sort: null,
};

test('the table: a scan in its order, sorted by a column, cut, hidden, out of its hours; a list with who trades of it; and why', async () => {
  const h = await setUp(memoryStore());
  const { source } = TABLE;
  if (source.kind !== 'scan') throw new Error('the sample is a scan');
  const ask = async (change: Partial<typeof source> = {}, rest: Partial<TableAsked> = {}) => {
    const table = { ...TABLE, source: { ...source, ...change }, ...rest };
    await h.ask({ kind: 'subscribe', questions: [{ kind: 'table', table }] });
    const answer = h.reply({ kind: 'table', table });
    const t = answer?.ok ? answer.answer : undefined;
    const names = h.latest('symbols') ?? [];
    return {
      answer,
      rows: [...(t?.who ?? [])].map((i) => names[i]),
      gaps: [...(t?.columns[1] ?? [])],
      slice: t,
    };
  };
  expect((await ask({ rule: 'gap>8%  and float < 20x' })).answer).toMatchObject({ ok: false });
  expect((await ask({ rule: 'gap > 8% and flot < 2' })).answer).toMatchObject({
    ok: false,
    from: 13,
    to: 17,
  });
  expect(await h.ask({ kind: 'focus', symbol: 'NOPE' })).toContain('does not trade today');
  const plain = await ask();
  expect(plain.rows.length).toBeGreaterThan(2);
  expect(plain.gaps).toEqual([...plain.gaps].sort((a, b) => b - a));
  const leader = plain.rows[0] as string;
  expect((await ask({ limit: 2 })).rows).toEqual(plain.rows.slice(0, 2));
  expect((await ask({ hidden: [leader] })).rows).toEqual(plain.rows.slice(1));
  expect((await ask({}, { sort: { field: 'gap', down: false } })).rows).toEqual([...plain.rows].reverse());
  expect((await ask({}, { sort: { field: 'symbol', down: false } })).rows).toEqual([...plain.rows].sort());
  expect((await ask({ from: 600 })).slice).toMatchObject({ closed: true, passing: 0 });
  const why = async (symbol: string) => {
    const question = { kind: 'why', symbol, table: TABLE } as const;
    await h.ask({ kind: 'subscribe', questions: [question] });
    return h.reply(question);
  };
  expect(await why(leader)).toMatchObject({
    answer: { place: 1, clauses: [{ passes: true }, { passes: true }] },
  });
  expect(await why('FOXID')).toMatchObject({ answer: { place: null } });
  expect(
    (
      await ask(
        {},
        { source: { kind: 'list', symbols: ['QUOLS', 'NOSUC', leader] }, columns: ['price', 'gap'] },
      )
    ).rows,
  ).toEqual(['QUOLS', leader]);
});

test('a question that is not asked any more costs nothing and tells nothing', async () => {
  const h = await setUp(memoryStore());
  const question = { kind: 'peeks', texts: [{ text: 'flatten', symbol: null }] } as const;
  const told = () => h.heard.filter((m) => m.kind === 'update' && keyOf(question) in m.replies).length;
  await h.ask({ kind: 'subscribe', questions: [question] });
  expect(told()).toBe(1);
  await h.ask({ kind: 'unsubscribe', question });
  await h.ask({ kind: 'run', text: BUY });
  expect(told()).toBe(1);
  await h.ask({ kind: 'subscribe', questions: [question] });
  expect(told()).toBe(2);
});

test('while time runs money follows prices five times a second, and an order at once', async () => {
  const h = await setUp(memoryStore());
  const told = () =>
    h.heard.filter((m) => m.kind === 'update' && keyOf(STANDING.account) in m.replies).length;
  await h.ask({ kind: 'speed', speed: 20 });
  const before = told();
  await h.run(2);
  expect(told() - before).toBeGreaterThanOrEqual(5);
  expect(told() - before).toBeLessThanOrEqual(11);
  const pressed = told();
  await h.ask({ kind: 'run', text: BUY });
  expect(told()).toBe(pressed + 1);
});

test('of two runs to another moment that wait, the first leaves presses refused until the second is over', async () => {
  const h = await setUp(memoryStore());
  const day = { kind: 'practice', id: 'fresh-headlines', seed: 8, size: 60 } as const;
  const [one, two] = [h.ask({ kind: 'start day', day }), h.ask({ kind: 'start day', day })];
  await one;
  expect(await h.ask({ kind: 'run', text: BUY })).toContain('being run to another moment');
  await two;
  expect(await h.ask({ kind: 'run', text: BUY })).toMatchObject({ result: { ok: true } });
});

test('alerts fire in the session, are told once, and are there again when it is brought back', async () => {
  const store = memoryStore();
  const h = await setUp(store);
  const run = async (text: string) => {
    const answer = await h.ask({ kind: 'run', text });
    if (typeof answer === 'string' || answer.kind !== 'run') throw new Error('a run was expected');
    return answer.result;
  };
  expect((await run('alert at last of VULPN')).problem).toContain('stands at');
  expect((await run('alert at last - 2c of VULPN')).done[0]).toContain('alert of VULPN at ');
  await run('alert at last + 2c of VULPN');
  await run('alert any on halt');
  await h.ask({ kind: 'alert', id: 3, change: { kind: 'remove' } });
  await h.ask({ kind: 'jump', to: 10 * 3_600_000 });
  await h.run(8);
  const alerts = h.latest('alerts');
  expect(alerts?.list.map((a) => [a.id, a.status])).toEqual([
    [1, 'fired'],
    [2, 'fired'],
  ]);
  expect(alerts?.fired.map((f) => f.alert).sort()).toEqual([1, 2]);
  const again = await setUp(store);
  expect(again.latest('alerts')).toEqual(alerts);
});

test('a page that is loaded again right after going back stands where it went back to', async () => {
  const store = memoryStore();
  const h = await setUp(store);
  await h.ask({ kind: 'run', text: BUY });
  await h.ask({ kind: 'jump', to: 9.3 * 3_600_000 });
  await h.run(2);
  await h.ask({ kind: 'go back', to: 9.25 * 3_600_000 });
  const again = await setUp(store);
  expect(again.latest('clock')).toMatchObject({ attempt: 2, now: 9.25 * 3_600_000 });
});

test('going back is a new attempt from there: the same market, the later actions set aside and kept', async () => {
  const store = memoryStore();
  const h = await setUp(store);
  const BARS = { kind: 'bars', symbol: 'VULPN' } as const;
  const barsNow = () => {
    const reply = h.reply(BARS);
    return reply?.ok ? reply.answer.bars : undefined;
  };
  await h.ask({ kind: 'subscribe', questions: [BARS] });
  await h.ask({ kind: 'run', text: BUY });
  await h.ask({ kind: 'jump', to: 9.2 * 3_600_000 });
  await h.run(2);
  const bars = barsNow();
  await h.ask({ kind: 'run', text: 'flatten of VULPN' });
  await h.ask({ kind: 'go back', to: 9.19 * 3_600_000 });
  expect(h.latest('clock')).toMatchObject({ attempt: 2, now: 9.19 * 3_600_000 });
  expect(h.latest('book')?.trades.map((t) => [t.entered, t.exited])).toEqual([[100, 0]]);
  await h.ask({ kind: 'jump', to: 9.2 * 3_600_000 });
  await h.run(2);
  expect(barsNow()).toEqual(bars);
  const answer = await h.ask({ kind: 'days' });
  if (typeof answer === 'string' || answer.kind !== 'days') throw new Error('days were expected');
  expect(answer.days.attempts.map((a) => [a.id, a.from?.attempt ?? null, a.trades])).toEqual([
    [1, null, 1],
    [2, 1, 1],
  ]);
  expect((await store.log(1)).flatMap((e) => (e.input?.kind === 'run' ? [e.input.text] : []))).toEqual([
    BUY,
    'flatten of VULPN',
  ]);
});

test('steps: one print, one second, one bar; and the next day at 04:00 with the closing auction’s price as prior close', async () => {
  const h = await setUp(memoryStore());
  const now = () => h.latest('clock')?.now ?? 0;
  const focus = () => h.latest('focus');
  const count = focus()?.count ?? 0;
  await h.ask({ kind: 'step', what: 'print' });
  expect(focus()?.count).toBe(count + 1);
  await h.ask({ kind: 'step', what: 'second' });
  expect(now() % 1_000).toBe(0);
  await h.ask({ kind: 'step', what: 'bar' });
  expect(now() % 60_000).toBe(0);
  await h.ask({ kind: 'next day' });
  expect(h.latest('clock')).toMatchObject({
    now: (24 + 4) * 3_600_000,
    date: '2027-03-10',
    dates: ['2027-03-09', '2027-03-10'],
    session: 'pre-market',
  });
  const answer = await h.ask({ kind: 'go back', to: 19 * 3_600_000 });
  expect(answer).toMatchObject({ kind: 'done' });
  expect(h.latest('clock')).toMatchObject({ now: 19 * 3_600_000, date: '2027-03-09' });
  await h.ask({ kind: 'jump', to: 20 * 3_600_000 });
  await h.run(3);
  expect(now()).toBe(20 * 3_600_000);
  const day = await h.ask({ kind: 'history', symbol: focus()?.symbol ?? '', what: 'prints' });
  const prints = typeof day !== 'string' && day.kind === 'history' ? day.prints : [];
  await h.ask({ kind: 'next day' });
  const cross = prints.find((x) => x.condition === 'closing auction');
  expect(focus()?.instrument.priorClose).toBe(cross?.price);
  // Trading after hours does not move it.
  expect(prints[prints.length - 1]?.at).toBeGreaterThan(cross?.at ?? 0);
});

test('sessions are run on to a date or to the next own fill; a goal that cannot be reached is refused with one that can', async () => {
  const store = memoryStore();
  const h = await setUp(store, 40);
  const on = (until: RunUntil) => h.ask({ kind: 'run on', until });
  expect(await on({ kind: 'fill' })).toContain('no order works, sleeps or waits');
  expect(await on({ kind: 'date', date: '2027-03-09' })).toContain('is not after today');
  expect(await on({ kind: 'date', date: '2027-03-13' })).toContain('the next one is 2027-03-15');
  expect(await on({ kind: 'date', date: '2028-03-13' })).toContain('in one go is 2027-06-03');
  await h.ask({ kind: 'run', text: 'buy 100 at ask + 3c extended gtc\n stop 60%' });
  expect(await on({ kind: 'date', date: '2027-03-11' })).toEqual({
    kind: 'came',
    text: 'It is 2027-03-11, 04:00',
  });
  expect(h.latest('clock')).toMatchObject({ date: '2027-03-11', now: 52 * 3_600_000 });
  expect(h.heard.some((m) => m.kind === 'working' && m.words === '2027-03-10, 2 of 2')).toBe(true);
  // Back to a moment that was run coarsely: every symbol is brought on to it.
  await h.ask({ kind: 'go back', to: 34 * 3_600_000 });
  expect(h.latest('clock')).toMatchObject({ date: '2027-03-10', now: 34 * 3_600_000 });
  expect((await store.log(2)).at(-1)?.input).toEqual({ kind: 'others', run: 'in full' });
  // Ended on the way it stands there, whole, and a page that is loaded anew finds it so.
  const ended = on({ kind: 'date', date: '2027-03-30' });
  const half = () => h.heard.some((m) => m.kind === 'working' && m.words.startsWith('2027-03-12'));
  while (!half()) await new Promise(setImmediate);
  await h.ask({ kind: 'stop work' });
  await ended;
  const again = await setUp(store);
  expect(again.latest('clock')).toMatchObject({ now: h.latest('clock')?.now, date: '2027-03-12' });
  await again.ask({ kind: 'run', text: 'close all at last + 2%' });
  const before = again.heard.length;
  expect(await again.ask({ kind: 'run on', until: { kind: 'fill' } })).toMatchObject({ kind: 'came' });
  const fills = again.heard
    .slice(before)
    .flatMap((m) => bookIn(m)?.events ?? [])
    .filter((x) => x.exec === 'Trade');
  expect(fills[fills.length - 1]?.at).toBe(again.latest('clock')?.now);
});

test('sessions of imported data are run on to one of their dates, however far apart', async () => {
  const store = memoryStore();
  const h = await setUp(store);
  const bar = (start: number) => ({
    start,
    open: 50_000,
    high: 50_100,
    low: 50_000,
    close: 50_100,
    volume: 900,
  });
  const day = (date: string) => ({ date, minutes: [bar(34_200_000), bar(34_260_000)], daily: null });
  const symbols = [{ symbol: 'ACMEK', days: [day('2027-05-04'), day('2027-05-06'), day('2027-05-12')] }];
  await h.ask({ kind: 'keep own day', day: { title: 'mine', symbols } as unknown as Omit<OwnDay, 'id'> });
  await h.ask({ kind: 'start day', day: { kind: 'own', id: 'own 1' }, known: 1 });
  // Who comes to it from what is known of it trades in hindsight up to that session.
  expect((await store.attempts()).at(-1)).toMatchObject({ day: { id: 'own 1' }, known: 1 });
  expect(await h.ask({ kind: 'run on', until: { kind: 'date', date: '2027-05-06' } })).toEqual({
    kind: 'came',
    text: 'It is 2027-05-06, 04:00',
  });
  // Beyond the last of them it says so, and stands at the end of it.
  await h.ask({ kind: 'run on', until: { kind: 'date', date: '2027-05-12' } });
  expect(await h.ask({ kind: 'run on', until: { kind: 'date', date: '2027-05-13' } })).toContain(
    'no further one',
  );
  expect(h.latest('clock')).toMatchObject({ date: '2027-05-12', now: 68 * 3_600_000 });
});

test('15: work that is ended on its way keeps what it has lived through, and the next day can be asked for again', async () => {
  const store = memoryStore();
  const h = await setUp(store, 40);
  await h.ask({ kind: 'run', text: BUY });
  const ended = h.ask({ kind: 'next day' });
  const under = () => h.heard.find((m) => m.kind === 'working' && m.what === 'Running to the end of the day');
  while (!under()) await new Promise(setImmediate);
  expect(under()).toMatchObject({ ending: 'here' });
  await h.ask({ kind: 'stop work' });
  await ended;
  await h.ask({ kind: 'peek', text: 'flatten' });
  const stands = h.latest('clock')?.now ?? 0;
  expect(stands).toBeGreaterThan(9.17 * 3_600_000);
  expect(stands).toBeLessThan(20 * 3_600_000);
  const log = await store.log(1);
  expect(log.map((x) => x.seq)).toEqual(log.map((_, i) => i + 1));
  const again = await setUp(store);
  expect(again.latest('book')).toEqual({ ...h.latest('book'), ...again.latest('book') });
  await h.ask({ kind: 'next day' });
  expect(h.latest('clock')).toMatchObject({ date: '2027-03-10', now: 28 * 3_600_000 });
});

test('a jump after a search goes to where it was sent, past fills', async () => {
  const h = await setUp(memoryStore());
  await h.ask({ kind: 'run', text: 'buy 100 of VULPN at bid extended\n stop 30c' });
  await h.ask({ kind: 'next event', symbols: ['VULPN'] });
  await h.ask({ kind: 'jump', to: 9.4 * 3_600_000 });
  await h.run(4);
  expect(h.latest('clock')).toMatchObject({ now: 9.4 * 3_600_000, jumpingTo: null });
});

test('a book slice holds what changed; put together they are the book', async () => {
  const h = await setUp(memoryStore());
  await h.ask({ kind: 'run', text: `${BUY}\n target 1R` });
  await h.ask({ kind: 'run', text: 'close half at bid - 3c of VULPN'.replace(' of VULPN', '') });
  await h.ask({ kind: 'run', text: 'flatten of VULPN' });
  const slices = h.heard.flatMap((m) => bookIn(m) ?? []);
  const whole = slices.reduce((now, next) => mergeBook(now, next));
  const fresh = (await setUp(h.store)).latest('book');
  expect({ ...whole, whole: true }).toEqual(fresh);
  for (const s of slices.slice(1)) expect(s.whole).toBe(false);
  expect(slices.at(-1)?.orders.length).toBeLessThan(whole.orders.length);
});

test('the same imported day twice is kept once; another one of the same size gets an id of its own, also after one was removed', async () => {
  const store = memoryStore();
  const h = await setUp(store);
  const day = (close: number) =>
    ({
      title: 'Mine',
      symbols: [
        {
          symbol: 'AAA',
          days: [{ date: '2027-03-09', minutes: [], daily: { open: 1, high: 2, low: 1, close, volume: 10 } }],
        },
      ],
    }) as unknown as Omit<OwnDay, 'id'>;
  for (const d of [day(1), day(1), day(2)]) await h.ask({ kind: 'keep own day', day: d });
  const ids = async () => (await store.ownDays()).map((o) => o.id);
  expect(await ids()).toEqual(['own 1', 'own 2']);
  await h.ask({ kind: 'drop own day', id: 'own 1' });
  await h.ask({ kind: 'keep own day', day: day(3) });
  expect(await ids()).toEqual(['own 2', 'own 3']);
});

test('trades are kept for review with the log: what opened them, their executions, and once more as they end', async () => {
  const h = await setUp(memoryStore());
  await h.ask({ kind: 'run', text: BUY, by: { script: 'My key', scan: 'Gappers' } });
  expect(h.kept.get('a1.1')).toMatchObject({
    symbol: 'VULPN',
    closed: null,
    script: 'My key',
    scan: 'Gappers',
    plan: 'exits of its own',
    scenario: 'Fresh headlines',
    executions: [expect.objectContaining({ side: 'buy', role: 'entry', date: '2027-03-09' })],
  });
  await h.ask({ kind: 'run', text: 'flatten of VULPN' });
  const done = h.kept.get('a1.1');
  expect(done?.closed).toMatchObject({ date: '2027-03-09' });
  expect(done?.executions.reduce((a, x) => a + (x.side === 'buy' ? x.qty : -x.qty), 0)).toBe(0);
  const costs = done?.executions.reduce((a, x) => a + totalOf(x.costs), 0) ?? 0;
  expect(done?.net).toBe((done?.gross ?? 0) - costs);
});

test('a day is watched again: what was done comes by itself, over a reload too, until the trader acts; taken again, it does not', async () => {
  const one = await setUp(memoryStore());
  await one.run(2);
  await one.ask({ kind: 'run', text: BUY });
  await one.ask({ kind: 'speed', speed: 20 });
  await one.run(3);
  await one.ask({ kind: 'run', text: 'flatten of VULPN' });
  await one.ask({ kind: 'speed', speed: 0 });
  const opened = one.kept.get('a1.1')?.opened.at as number;
  await one.ask({ kind: 'take again', attempt: 1, at: opened - 5_000, watch: true });
  expect(one.latest('clock')?.watching).toEqual({ attempt: 1, coming: 2 });
  expect(one.latest('book')?.trades).toEqual([]);
  const two = await setUp(one.store);
  await two.ask({ kind: 'speed', speed: 20 });
  await two.run(1);
  expect(two.latest('clock')?.watching?.coming).toBe(1);
  expect(two.latest('book')?.trades[0]?.entered).toBe(100);
  await two.run(5);
  expect(two.latest('clock')?.watching?.coming).toBe(0);
  expect(two.kept.get('a2.1')).toMatchObject({ net: one.kept.get('a1.1')?.net });
  await two.ask({ kind: 'run', text: BUY });
  expect(two.latest('clock')?.watching).toBeNull();
  await two.ask({ kind: 'take again', attempt: 1, at: opened - 5_000, watch: false });
  await two.ask({ kind: 'speed', speed: 20 });
  await two.run(5);
  expect(two.latest('book')?.trades).toEqual([]);
});

test('a daily loss that was reached locks the day across going back and beginning it again, not the next one', async () => {
  const h = await setUp(memoryStore());
  const rules = { ...DEFAULT_ACCOUNT, guards: { ...DEFAULT_ACCOUNT.guards, dailyLoss: moneyFromDollars(5) } };
  await h.ask({ kind: 'account', id: MAIN, rules, fees: [DEFAULT_FEES] });
  await h.run(1);
  await h.ask({ kind: 'run', text: 'buy 2000 of VULPN at ask + 3c extended\n stop 30c' });
  await h.ask({ kind: 'speed', speed: 20 });
  await h.run(2);
  await h.ask({ kind: 'speed', speed: 0 });
  const locked = async () =>
    JSON.stringify(await h.ask({ kind: 'run', text: BUY })).includes('no new risk until the next day');
  expect(await locked()).toBe(true);
  await h.ask({ kind: 'go back', to: (h.latest('clock')?.now ?? 0) - 30_000 });
  expect(await locked()).toBe(true);
  await h.ask({ kind: 'start day', day: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 } });
  expect(await locked()).toBe(true);
  await h.ask({ kind: 'start day', day: { kind: 'practice', id: 'fresh-headlines', seed: 8, size: 60 } });
  expect(await locked()).toBe(false);
});

test('what is pressed while the market is taken to another moment is refused at once, and never played later', async () => {
  const h = await setUp(memoryStore());
  await h.run(1);
  const press = { kind: 'act', text: BUY, asks: 'never' } as const;
  const [, ...pressed] = await Promise.all([
    h.ask({ kind: 'start day', day: { kind: 'practice', id: 'fresh-headlines', seed: 8, size: 60 } }),
    h.ask(press),
    h.ask({ kind: 'run', text: 'flatten of VULPN' }),
  ]);
  for (const answer of pressed) expect(answer).toContain('nothing was done');
  expect(h.latest('book')?.trades).toEqual([]);
  expect(await h.ask(press)).toMatchObject({ kind: 'run', result: { ok: true } });
});

test('a question is asked whatever the confirmations are set to; its yes is the one that was shown', async () => {
  const h = await setUp(memoryStore());
  await h.run(1);
  await h.ask({ kind: 'run', text: BUY });
  await h.ask({ kind: 'speed', speed: 20 });
  await h.run(2);
  await h.ask({ kind: 'speed', speed: 0 });
  const asked = await h.ask({ kind: 'act', text: 'cancel exits of VULPN', asks: 'never' });
  expect(asked).toMatchObject({ kind: 'peek', peeked: { asks: [{ kind: 'bares', symbol: 'VULPN' }] } });
  if (typeof asked === 'string' || asked.kind !== 'peek') throw new Error('it did not ask');
  const sent = await h.ask({ kind: 'send', proposal: asked.peeked.id });
  expect(sent).toMatchObject({
    kind: 'run',
    result: { ok: true, back: [expect.stringContaining('put back order')] },
  });
});
