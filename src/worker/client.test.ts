import { type Client, startClient } from './client.ts';
import type { Answers, AnswerTo, FromWorker, Request, ToWorker } from './protocol.ts';

/** A worker that the test plays. */
class PlayedWorker {
  static latest: PlayedWorker;
  sent: ToWorker[] = [];
  ended = false;
  onmessage: (e: { data: FromWorker }) => void = () => {};
  onerror: (e: { message: string }) => void = () => {};
  constructor() {
    PlayedWorker.latest = this;
  }
  postMessage(m: ToWorker): void {
    this.sent.push(m);
  }
  terminate(): void {
    this.ended = true;
  }
}

let client: Client;
let heard: FromWorker[];
beforeEach(() => {
  (globalThis as { Worker?: unknown }).Worker = PlayedWorker;
  heard = [];
  client = startClient((m) => heard.push(m));
});

const done = { kind: 'done' } as const;

test('answers find their requests whatever their order', async () => {
  const first = client.ask({ kind: 'speed', speed: 5 });
  const second = client.ask({ kind: 'why', symbol: 'VULPN' });
  const [a, b] = PlayedWorker.latest.sent;
  expect(a?.id).not.toBe(b?.id);
  PlayedWorker.latest.onmessage({
    data: {
      kind: 'answer',
      id: b?.id ?? 0,
      answer: { kind: 'why', clauses: [], place: 3, passing: 9, hidden: false },
    },
  });
  PlayedWorker.latest.onmessage({ data: { kind: 'answer', id: a?.id ?? 0, answer: done } });
  expect(await second).toMatchObject({ kind: 'why', place: 3, passing: 9 });
  expect(await first).toEqual(done);
});

test('a refusal rejects its own request only, with the words of the worker', async () => {
  const bad = client.ask({ kind: 'focus', symbol: 'NOPE' });
  const good = client.ask({ kind: 'speed', speed: 1 });
  const [a, b] = PlayedWorker.latest.sent;
  PlayedWorker.latest.onmessage({
    data: { kind: 'failed', id: a?.id ?? 0, message: '“NOPE” does not trade today.' },
  });
  PlayedWorker.latest.onmessage({ data: { kind: 'answer', id: b?.id ?? 0, answer: done } });
  await expect(bad).rejects.toThrow('does not trade today');
  await expect(good).resolves.toEqual(done);
});

test('when the worker dies every request under way is rejected and the interface is told', async () => {
  const asked = [client.ask({ kind: 'peek', text: 'flatten' }), client.ask({ kind: 'jump', to: 1 })];
  const settled = Promise.allSettled(asked);
  PlayedWorker.latest.onerror({ message: 'out of memory' });
  expect((await settled).map((s) => s.status)).toEqual(['rejected', 'rejected']);
  expect(heard).toEqual([{ kind: 'broken', message: 'out of memory' }]);
});

test('what the worker tells unasked is heard in order; stopping ends it', async () => {
  PlayedWorker.latest.onmessage({ data: { kind: 'ready' } });
  PlayedWorker.latest.onmessage({ data: { kind: 'update', update: { news: [] } } });
  expect(heard.map((m) => m.kind)).toEqual(['ready', 'update']);
  const open = client.ask({ kind: 'stop work' });
  client.stop();
  await expect(open).rejects.toThrow('left');
  expect(PlayedWorker.latest.ended).toBe(true);
});

/** Compile-time: each request has exactly its own answer. */
type Same<A, B> = [A] extends [B] ? ([B] extends [A] ? true : false) : false;
const typed: [
  Same<AnswerTo<'peek'>['kind'], 'peek'>,
  Same<AnswerTo<'run'>['kind'], 'run'>,
  Same<AnswerTo<Exclude<Request['kind'], keyof Answers>>['kind'], 'done'>,
] = [true, true, true];
void typed;
