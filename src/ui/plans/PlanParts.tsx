'use client';

import { type PointerEvent, useRef } from 'react';
import { parseExits } from '@/core/language';
import { partedExits } from '@/core/plans';
import { exitLines } from './exit-lines';

const STEP = 5;

/** For how many of the shares each target stands, as one bar; where one ends and the next begins is moved by hand. */
export function PlanParts({ text, change }: { text: string; change(text: string): void }) {
  const bar = useRef<HTMLDivElement>(null);
  const { exits, problems } = parseExits(text);
  const targets = exits.filter((e) => e.kind === 'target exit');
  if (targets.length === 0 || problems.length > 0) return null;
  let sum = 0;
  const pieces = targets.map((t, k) => {
    const from = sum;
    const part = t.part?.kind === 'fraction' ? t.part : null;
    sum = part ? Math.min(100, sum + (100 * part.num) / part.den) : 100;
    return { k, from, to: sum, whole: part === null, name: `target ${k + 1}` };
  });
  const rest = exits.some((e) => e.kind === 'trail') ? 'trails' : 'stop or by hand';
  const move = (k: number, percent: number) => {
    const after = exitLines(text, (all) => partedExits(all, k, percent));
    if (after !== text) change(after);
  };
  const drag = (ev: PointerEvent<HTMLElement>, k: number) => {
    const box = bar.current?.getBoundingClientRect();
    if (ev.buttons === 0 || !box) return;
    ev.currentTarget.setPointerCapture(ev.pointerId);
    move(k, Math.round((100 * (ev.clientX - box.left)) / box.width / STEP) * STEP);
  };
  return (
    <section className="col-span-2 mb-2 text-[13px]" aria-label="Parts of the targets">
      <div ref={bar} className="relative flex h-7 w-full touch-none select-none rounded border border-line">
        {pieces.map((p) => (
          <span
            key={p.name}
            className="num flex items-center justify-center overflow-hidden whitespace-nowrap bg-up/15"
            style={{ width: `${p.to - p.from}%` }}
          >
            {p.name} · {share(p.to - p.from)}
          </span>
        ))}
        {sum < 99.5 && (
          <span
            className="num flex items-center justify-center overflow-hidden whitespace-nowrap text-quiet"
            style={{ width: `${100 - sum}%` }}
          >
            {share(100 - sum)} {rest}
          </span>
        )}
        {pieces
          .filter((p) => !p.whole)
          .map((p) => (
            <span
              key={p.name}
              role="slider"
              tabIndex={0}
              aria-label={`Shares out after ${p.name}`}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(p.to)}
              aria-valuetext={`${share(p.to - p.from)} at ${p.name}`}
              className="absolute -top-1 h-9 w-3 -translate-x-1/2 cursor-ew-resize rounded border-2 border-up bg-panel"
              style={{ left: `${p.to}%` }}
              onPointerDown={(ev) => drag(ev, p.k)}
              onPointerMove={(ev) => drag(ev, p.k)}
              onKeyDown={(ev) => {
                const way = ev.key === 'ArrowRight' ? 1 : ev.key === 'ArrowLeft' ? -1 : 0;
                if (way === 0) return;
                ev.preventDefault();
                move(p.k, p.to + way * STEP);
              }}
            />
          ))}
      </div>
    </section>
  );
}

const share = (percent: number): string => `${Math.round(percent)} %`;
