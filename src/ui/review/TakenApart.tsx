'use client';

import { useState } from 'react';
import { DIMENSION_LIST, type DimensionId, inUnit, type Results, type Unit } from '@/core/review';
import { onlyGroup, useAsked, useLens } from './asked';
import { between, dollars, inR, percent, told } from './said';
import type { ReviewTab } from './tabs';

/** The same trades by symbol, side, setup, hour and so on: each group with how many there are, and how sure its mean is. */
export default function TakenApart({ unit, show }: { unit: Unit; show(tab: ReviewTab): void }) {
  const filter = useLens((s) => s.filter);
  const [by, setBy] = useState<DimensionId>('hour');
  const { answer: groups, problem } = useAsked({ kind: 'groups', filter, by });
  const all = (groups ?? []).map((g) => ({ ...g, told: inUnit(g, unit) }));
  const widest = Math.max(
    0.01,
    ...all
      .map(({ told: x }) =>
        Math.max(Math.abs(x.interval?.low ?? x.average), Math.abs(x.interval?.high ?? x.average)),
      )
      .filter(Number.isFinite),
  );
  const say = (x: number) => told(unit, x);
  return (
    <div className="grid min-h-0 grid-cols-[150px_1fr] gap-1.5">
      <nav className="panel flex flex-col gap-0.5 overflow-y-auto p-2" aria-label="Taken apart by">
        {DIMENSION_LIST.map((d) => (
          <button
            key={d.id}
            type="button"
            className="btn py-0.5 text-left"
            aria-pressed={by === d.id}
            onClick={() => setBy(d.id)}
          >
            {d.name}
          </button>
        ))}
      </nav>
      <section
        className="panel overflow-auto px-3 py-2"
        aria-label={`By ${DIMENSION_LIST.find((d) => d.id === by)?.name}`}
      >
        {problem && <p role="alert">⚠ {problem}</p>}
        {groups?.length === 0 && (
          <p className="p-3 text-quiet">
            None of these trades says. Setup, grade and whether the plan was kept are said of a trade where it
            is opened; script, plan and scan come with how it was entered.
          </p>
        )}
        {groups && groups.length > 0 && (
          <table className="plain">
            <thead>
              <tr>
                {[
                  'Group',
                  'Trades',
                  'Days',
                  'Won',
                  unit === 'R' ? 'R a trade' : '$ a trade',
                  '19 of 20 between',
                  'losing │ making',
                  'Sum R',
                  'Net',
                ].map((h, k) => (
                  <th key={`${h}${k}`} scope="col" className={k === 6 ? 'w-[260px]' : ''}>
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="num">
              {all.map((g) => (
                <tr
                  key={g.name}
                  className={g.told.interval ? 'hover:bg-raised' : 'text-quiet hover:bg-raised'}
                >
                  <td>
                    <button
                      type="button"
                      className="font-semibold underline decoration-line underline-offset-4 hover:decoration-text"
                      onClick={() => {
                        onlyGroup(by, g.name);
                        show('trades');
                      }}
                    >
                      {g.name}
                    </button>
                  </td>
                  <td>{g.trades}</td>
                  <td>{g.days}</td>
                  <td title={between(g.winRateInterval, percent)}>{percent(g.winRate)}</td>
                  <td className="font-semibold">{say(g.told.average)}</td>
                  <td>{between(g.told.interval, say)}</td>
                  <td>
                    <Whisker of={g.told} widest={widest} />
                  </td>
                  <td>{inR(g.r.sum, 1)}</td>
                  <td>{dollars(g.net.sum)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}

/** The mean and its interval on a line whose middle is nothing. */
function Whisker({ of: g, widest }: { of: Results; widest: number }) {
  const x = (r: number) => 125 + (r / widest) * 120;
  if (!Number.isFinite(g.average)) return null;
  const colour = !g.interval
    ? 'var(--quiet)'
    : g.interval.high < 0
      ? 'var(--down)'
      : g.interval.low > 0
        ? 'var(--up)'
        : 'var(--quiet)';
  return (
    <svg viewBox="0 0 250 16" className="block h-4 w-[250px]" aria-hidden>
      <line x1={125} x2={125} y1={0} y2={16} stroke="var(--line)" />
      {g.interval && (
        <line x1={x(g.interval.low)} x2={x(g.interval.high)} y1={8} y2={8} stroke={colour} strokeWidth={2} />
      )}
      <rect
        x={x(g.average) - 3}
        y={5}
        width={6}
        height={6}
        fill={colour}
        transform={`rotate(45 ${x(g.average)} 8)`}
      />
    </svg>
  );
}
