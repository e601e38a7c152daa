'use client';

import { useState } from 'react';
import { PRICE_SCALE, parsePrice } from '@/core/units';
import type { Settings } from '@/store/settings';
import { px } from '../format';
import { OneOf } from '../primitives/OneOf';
import { useSettings } from '../settings';

type Usual = Settings['usual'];
const CENT = 100;

/** What “usual” stands for: distances by the price of the stock, or by its average true range. */
export function UsualTable() {
  const usual = useSettings((s) => s.usual);
  const set = useSettings((s) => s.set);
  const change = (c: Partial<Usual>) => set({ usual: { ...usual, ...c } });
  const band = (k: number, c: Partial<Usual['bands'][number]>) =>
    change({ bands: usual.bands.map((b, i) => (i === k ? { ...b, ...c } : b)) });
  return (
    <section className="panel px-3 py-2 text-[13px]" aria-label="Usual distances">
      <h2 className="heading">Usual distances</h2>
      <OneOf
        label="Usual distances go"
        className="my-1 flex gap-3"
        value={usual.by}
        options={[
          ['price', 'by price'],
          ['atr', 'by ATR'],
        ]}
        change={(by) => change({ by })}
      />
      {usual.by === 'price' ? (
        <table className="num w-full">
          <thead className="text-left text-quiet">
            <tr>
              <th className="font-normal">below $</th>
              <th className="whitespace-nowrap font-normal">through c</th>
              <th className="whitespace-nowrap font-normal">stop c</th>
              <th>
                <span className="sr-only">Take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {usual.bands.map((b, k) => (
              <tr key={`${k} of ${usual.bands.length}`}>
                <td>
                  {b.below === 0 ? (
                    'any'
                  ) : (
                    <Bound
                      label={`Price band ${k + 1}: below, dollars`}
                      units={b.below}
                      between={[usual.bands[k - 1]?.below ?? 0, usual.bands[k + 1]?.below || MOST]}
                      set={(below) => band(k, { below })}
                    />
                  )}
                </td>
                <td>
                  <Cents
                    label={`Through the quote, ${bandName(b)}`}
                    units={b.reach}
                    set={(reach) => band(k, { reach })}
                  />
                </td>
                <td>
                  <Cents label={`Stop, ${bandName(b)}`} units={b.stop} set={(stop) => band(k, { stop })} />
                </td>
                <td>
                  {b.below !== 0 && (
                    <button
                      type="button"
                      className="px-1 text-quiet hover:text-text"
                      aria-label={`Take out the prices ${bandName(b)}`}
                      onClick={() => change({ bands: usual.bands.filter((_, i) => i !== k) })}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <div className="grid grid-cols-2 gap-2">
          <Part label="through, ATR" value={usual.reachAtr} set={(reachAtr) => change({ reachAtr })} />
          <Part label="stop, ATR" value={usual.stopAtr} set={(stopAtr) => change({ stopAtr })} />
        </div>
      )}
      {usual.by === 'price' && usual.bands.length < MOST_BANDS && (
        <button
          type="button"
          className="btn mt-1 px-2 py-0"
          onClick={() => change({ bands: split(usual.bands) })}
        >
          Another price band
        </button>
      )}
      <p className="mt-1 text-quiet">“at usual through”, “stop usual” take these.</p>
    </section>
  );
}

const MOST = 100_000 * PRICE_SCALE;
const MOST_BANDS = 20;

/** One band more, below twice the last bound, with the distances of the one that it is cut from. */
function split(bands: Usual['bands']): Usual['bands'] {
  const last = bands[bands.length - 1];
  const before = bands[bands.length - 2];
  if (!last) return bands;
  return [
    ...bands.slice(0, -1),
    { ...last, below: Math.min(MOST / 2, 2 * (before?.below ?? PRICE_SCALE)) },
    last,
  ];
}

/** The price below which a band holds: above the one before it, under the one after it. */
function Bound({
  label,
  units,
  between: [low, high],
  set,
}: {
  label: string;
  units: number;
  between: [number, number];
  set(units: number): void;
}) {
  const [text, setText] = useState(px(units).replace(/\.00$/, ''));
  const good = (typed: string) => {
    const read = parsePrice(typed);
    return read !== null && read > low && read < high ? read : null;
  };
  const bad = good(text) === null;
  return (
    <input
      className="field num w-14 px-1 py-0 text-[13px]"
      aria-label={label}
      aria-invalid={bad}
      title={bad ? `A price above ${px(low)} and below ${px(high)}` : undefined}
      value={text}
      onChange={(e) => {
        setText(e.target.value);
        const read = good(e.target.value);
        if (read !== null) set(read);
      }}
    />
  );
}

const bandName = (b: Usual['bands'][number]): string =>
  b.below === 0 ? 'any higher price' : `below ${b.below / PRICE_SCALE} dollars`;

function Cents({ label, units, set }: { label: string; units: number; set(units: number): void }) {
  const [text, setText] = useState(String(units / CENT));
  const read = parsePrice(text);
  const bad = read === null || read > MOST;
  return (
    <input
      className="field num w-14 px-1 py-0 text-[13px]"
      aria-label={label}
      aria-invalid={bad}
      title={bad ? 'Cents, such as 3 or 0.5' : undefined}
      value={text}
      onChange={(e) => {
        setText(e.target.value);
        const cents = parsePrice(e.target.value);
        if (cents !== null) set(Math.max(1, Math.round((cents * CENT) / PRICE_SCALE)));
      }}
    />
  );
}

function Part({ label, value, set }: { label: string; value: number; set(v: number): void }) {
  const [text, setText] = useState(String(value));
  const bad = !(Number(text) > 0 && Number(text) <= 10);
  return (
    <label>
      <span className="block text-quiet">{label}</span>
      <input
        className="field num w-full"
        aria-invalid={bad}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          const n = Number(e.target.value);
          if (n > 0 && n <= 10) set(n);
        }}
      />
      {bad && <span>⚠ a part of the ATR, such as 0.15</span>}
    </label>
  );
}
