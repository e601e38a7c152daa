import { CASH, DEFAULT_ACCOUNT, DEFAULT_FEES, MAIN } from '../core/account/index.ts';
import { parseScript } from '../core/language/index.ts';
import { at } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { advance, apply, createEngine, restore, save } from './engine.ts';
import type { LogEntry, SavedSession } from './log.ts';
import { peek } from './scripts.ts';
import { simMarket } from './sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'gap-and-go', seed: 7, size: 24 }, own: null };
const engine = createEngine(simMarket(DAY));
advance(engine, at(9, 40));
const now = structuredClone(save(engine));

/** The same session with its trader's side as an earlier version kept it, brought back with a log. */
function broughtBack(version: 4 | 5, change: (state: never) => void, log: LogEntry[] = []) {
  const old = { ...structuredClone(now), version } as SavedSession;
  change(old.state as never);
  return restore(old, simMarket(DAY, structuredClone(now.market)), log, null);
}

test('accounts of a time when every one flagged costs alike go on, those of the log too', () => {
  const old = ({ broker }: { broker: { accounts: Record<string, { rules: { costShare?: number } }> } }) => {
    for (const a of Object.values(broker.accounts)) delete a.rules.costShare;
  };
  const { costShare: _since, ...rules } = DEFAULT_ACCOUNT;
  const input = {
    kind: 'account',
    id: MAIN,
    rules: { ...rules, name: 'Mine' },
    fees: [DEFAULT_FEES],
  } as never;
  const log: LogEntry[] = [{ seq: now.seq + 1, at: now.now, happened: 0, input, events: [] }];
  const back = broughtBack(5, old as never, log);
  expect(back.state.broker.accounts[MAIN]?.rules).toEqual({ ...DEFAULT_ACCOUNT, name: 'Mine' });
  const dear = 'buy 100 at 3c through\n stop 20c\n target 4c';
  expect(peek(back, dear, 'VULPN').lines[0]?.warnings.join()).toContain('of what the first target makes');
  expect(save(back).version).toBe(6);
});

test('a session of a time without guards, other accounts and chains goes on with them', () => {
  const [order] = parseScript('stage buy 10 of VULPN at bid').statements;
  const old = (state: {
    broker: { accounts: Record<string, unknown> };
    desk: object;
    alerts: { list: unknown[] };
  }) => {
    const {
      guards: _guards,
      costShare: _share,
      multipleFrom: _from,
      kind: _kind,
      ...rules
    } = DEFAULT_ACCOUNT;
    const { ledger } = state.broker.accounts[MAIN] as { ledger: unknown };
    state.broker.accounts = {
      [MAIN]: {
        id: MAIN,
        rules: { ...rules, mostShares: 700, collarPercent: 8 },
        ledger,
        closed: { gross: 0, commission: 0 },
      },
    };
    const { chain: _chain, ...statement } = order as { chain: unknown };
    state.desk = { ticket: null, staged: [{ id: 1, symbol: 'VULPN', statement, order: 1 }], nextStaged: 2 };
  };
  const back = broughtBack(4, old as never);
  const run = (text: string) => apply(back, { kind: 'run', text, focus: 'VULPN' }).result;
  expect(run('send staged').problem).toBeNull();
  expect(run('buy 800 at bid\n stop 20c').problem).toContain('at most 700 may be');
  expect(run('when last >= 999.00: flatten').problem).toBeNull();
  expect(run('use account "Practice cash"').problem).toBeNull();
  expect([back.state.desk.account, back.state.desk.waiting.length]).toEqual([CASH, 1]);
});
