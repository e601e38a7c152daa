import { linked } from '../../../tests/linked.ts';
import { type Asked, calls, type Port, type Replied } from './calls.ts';
import type { Jobs } from './serve.ts';

type Request = { kind: 'double'; n: number } | { kind: 'count'; to: number } | { kind: 'fail' };
interface Answers {
  double: number;
  count: string;
  fail: never;
}

/** A worker that the test plays. */
function played() {
  const sent: Asked<Request>[] = [];
  const port: Port & { ended: number } = {
    ended: 0,
    onmessage: null,
    onerror: null,
    postMessage: (m) => void sent.push(m as Asked<Request>),
    terminate: () => void port.ended++,
  };
  const heard: string[] = [];
  const died: string[] = [];
  let started = 0;
  const worker = calls<Request, Answers, number, string>(
    () => {
      started++;
      return port;
    },
    (told) => heard.push(told),
    (message) => died.push(message),
  );
  const say = (data: Replied<unknown, number> | string) => port.onmessage?.({ data } as MessageEvent);
  return { worker, port, sent, heard, died, say, starts: () => started };
}

test('answers find their requests whatever their order; what is told unasked is heard in order', async () => {
  const { worker, sent, heard, say } = played();
  const first = worker.ask({ kind: 'double', n: 2 });
  const second = worker.ask({ kind: 'double', n: 3 });
  const [a, b] = sent as [Asked<Request>, Asked<Request>];
  expect(a.id).not.toBe(b.id);
  say('one');
  say({ kind: 'answer', id: b.id, answer: 6 });
  say('two');
  say({ kind: 'answer', id: a.id, answer: 4 });
  expect(await Promise.all([first, second])).toEqual([4, 6]);
  expect(heard).toEqual(['one', 'two']);
});

test('progress that comes after the answer is told to nobody', async () => {
  const { worker, sent, say } = played();
  const parts: number[] = [];
  const counted = worker.ask({ kind: 'count', to: 2 }, (p) => parts.push(p));
  const { id } = sent[0] as Asked<Request>;
  say({ kind: 'progress', id, progress: 0.5 });
  say({ kind: 'answer', id, answer: 'to 2' });
  say({ kind: 'progress', id, progress: 1 });
  await counted;
  expect(parts).toEqual([0.5]);
});

test('when a worker dies every request under way is refused with its words, and that is told once', async () => {
  const { worker, port, died } = played();
  const settled = Promise.allSettled([worker.ask({ kind: 'double', n: 1 }), worker.ask({ kind: 'fail' })]);
  port.onerror?.({ message: 'out of memory' } as ErrorEvent);
  expect(await settled).toMatchObject([
    { status: 'rejected', reason: { message: 'out of memory' } },
    { status: 'rejected', reason: { message: 'out of memory' } },
  ]);
  expect(died).toEqual(['out of memory']);
});

test('a worker that is stopped is ended, whoever waits is told why, and the next request starts it anew', async () => {
  const { worker, port, sent, say, starts } = played();
  worker.stop();
  expect(port.ended).toBe(0);
  const open = worker.ask({ kind: 'double', n: 1 });
  worker.stop('Cancelled.');
  await expect(open).rejects.toThrow('Cancelled.');
  expect(port.ended).toBe(1);
  const again = worker.ask({ kind: 'double', n: 5 });
  // What the ended one still says answers nobody.
  say({ kind: 'answer', id: sent[0]?.id ?? 0, answer: 2 });
  say({ kind: 'answer', id: sent[1]?.id ?? 0, answer: 10 });
  expect(await again).toBe(10);
  expect(starts()).toBe(2);
});

test('jobs are done one after another, each with its own progress; a mistake refuses its own request', async () => {
  const order: string[] = [];
  const jobs: Jobs<Request, Answers, number> = {
    double: ({ n }) => {
      order.push(`double ${n}`);
      return 2 * n;
    },
    async count({ to }, progress) {
      for (let k = 1; k <= to; k++) {
        await Promise.resolve();
        order.push(`count ${k}`);
        progress(k / to);
      }
      return `to ${to}`;
    },
    fail() {
      throw new Error('There is no such day.');
    },
  };
  const worker = linked(jobs);
  const parts: number[] = [];
  const [counted, failed, doubled] = await Promise.allSettled([
    worker.ask({ kind: 'count', to: 2 }, (p) => parts.push(p)),
    worker.ask({ kind: 'fail' }),
    worker.ask({ kind: 'double', n: 4 }),
  ]);
  expect(counted).toMatchObject({ value: 'to 2' });
  expect(failed).toMatchObject({ reason: { message: 'There is no such day.' } });
  expect(doubled).toMatchObject({ value: 8 });
  expect(order).toEqual(['count 1', 'count 2', 'double 4']);
  expect(parts).toEqual([0.5, 1]);
});
