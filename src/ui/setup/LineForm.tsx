'use client';

import { ask, useSession } from '../client';
import { Choice } from '../primitives/Choice';

/** What the line to the exchange may take each way, in ms. */
const LATENCIES = [
  ['none: answered in the same moment', null],
  ['a good line, 5 to 40 ms', { from: 5, to: 40 }],
  ['a slow line, 100 to 400 ms', { from: 100, to: 400 }],
  ['a bad line, 0.5 to 2 s', { from: 500, to: 2_000 }],
] as const;

/** The line to the exchange: how long messages take, and cutting it to see what happens then. */
export function LineForm() {
  const line = useSession((s) => s.line);
  const now = LATENCIES.findIndex(([, l]) => l?.from === line?.latency?.from && l?.to === line?.latency?.to);
  return (
    <fieldset className="panel px-4 py-3">
      <legend className="heading px-1">The line to the exchange</legend>
      <span className="mr-4 inline-flex items-center gap-2">
        Each message takes
        <Choice
          label="Time a message takes"
          className="w-64"
          disabled={!line}
          value={String(Math.max(0, now))}
          options={LATENCIES.map(([name], i) => [String(i), name] as const)}
          change={(i) =>
            void ask({
              kind: 'line',
              change: { kind: 'latency', latency: LATENCIES[Number(i)]?.[1] ?? null },
            })
          }
        />
      </span>
      <button
        type="button"
        className="btn"
        disabled={!line}
        onClick={() => void ask({ kind: 'line', change: { kind: line?.up ? 'cut' : 'mend' } })}
      >
        {line?.up === false ? 'Mend the line' : 'Cut the line'}
      </button>
      <p className="mt-2 text-quiet">
        An order that waits for its answer is drawn dotted. While the line is cut nothing can be sent; the
        exchange works on what it has, and when the line stands again both sides compare what they know.
      </p>
    </fieldset>
  );
}
