'use client';

import { type Price, tickSize } from '@/core/units';
import type { Drawing } from '@/store/settings';
import { draw, remember } from './drawn';
import { type Item, nameOf, nextId, remove } from './items';

const COLOURS = ['quiet', 'text', 'condition', 'focus'] as const;
/** What can be done with what is chosen. */
export function DrawnStyle({ item, symbol, done }: { item: Item; symbol: string; done(): void }) {
  const change = (to: Partial<Drawing>) => {
    remember(symbol);
    draw(symbol, (list) => list.map((d) => (d.id === item.id ? { ...d, ...to } : d)));
  };
  return (
    <div
      className="panel absolute top-6 right-16 z-10 flex items-center gap-1 p-1 text-[13px]"
      role="toolbar"
      aria-label={`What is drawn: ${nameOf(item)}`}
    >
      <span className="px-1 text-quiet">{nameOf(item)}</span>
      {item.id !== null && (
        <>
          {COLOURS.map((c) => (
            <button
              key={c}
              type="button"
              className="btn h-6 w-6 p-0"
              aria-label={`Colour: ${c}`}
              aria-pressed={item.colour === c}
              onClick={() => change({ colour: c })}
            >
              <span className="inline-block h-3 w-3" style={{ background: `var(--${c})` }} />
            </button>
          ))}
          <button
            type="button"
            className="btn px-1.5 py-0.5"
            aria-pressed={item.dashed}
            onClick={() => change({ dashed: !item.dashed })}
          >
            dashed
          </button>
          <button
            type="button"
            className="btn px-1.5 py-0.5"
            onClick={() => {
              remember(symbol);
              draw(symbol, (list) => [
                ...list,
                ...list
                  .filter((d) => d.id === item.id)
                  .map((d) => ({
                    ...d,
                    id: nextId(list),
                    points: d.points.map((x) => ({ ...x, price: x.price + 2 * tickSize(x.price as Price) })),
                  })),
              ]);
            }}
          >
            copy
          </button>
        </>
      )}
      <button
        type="button"
        className="btn px-1.5 py-0.5"
        onClick={() => {
          remove(symbol, item);
          done();
        }}
      >
        delete
      </button>
      <button type="button" className="btn px-1.5 py-0.5" aria-label="Leave it" onClick={done}>
        ✕
      </button>
    </div>
  );
}
