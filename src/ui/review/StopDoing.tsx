'use client';

import { type Finding, inUnit } from '@/core/review';
import type { Overview } from '@/worker/review/review-messages';
import { usd } from '../format';
import { onlyGroup } from './asked';
import { between, inR, percent, told } from './said';
import type { ReviewTab } from './tabs';

const chance = (p: number): string =>
  p < 0.001 ? 'less than 1 in 1,000' : p > 0.4 ? 'as likely as not' : `1 in ${Math.round(1 / p)}`;

/** Mean loss, in R, from which it is said that losers cost more than what was risked. */
const DEAR_LOSS = -1.25;

/** What to stop doing, and what carries the rest: only what chance would hardly show. */
export function StopDoing({ overview, show }: { overview: Overview; show(tab: ReviewTab): void }) {
  const { stop, carries, suspect, looked } = overview.findings;
  const { unit, early } = overview;
  const { expectancy, money, gross, costs, trades, costShare, lost, loss } = overview.figures;
  const all = unit === 'R' ? expectancy : money;
  const allLose = (all.interval?.high ?? 0) < 0;
  const say = (x: number) => told(unit, x);
  const open = (f: Finding) => {
    onlyGroup(f.dimension, f.group.name);
    show('trades');
  };
  const one = (f: Finding, big: boolean) => {
    const made = inUnit(f.group, unit);
    return (
      <li key={`${f.dimension} ${f.group.name}`} className="py-1">
        <button type="button" className="w-full text-left hover:bg-raised" onClick={() => open(f)}>
          <span className={`block ${big ? 'text-[17px] font-bold' : 'font-semibold'}`}>
            {f.heading}: {f.group.name}{' '}
            <span className={`num ${made.sum < 0 ? 'text-down' : 'text-up'}`}>{told(unit, made.sum, 1)}</span>
          </span>
          <span className="block text-[12px] text-quiet">
            {f.group.trades} trades at {say(made.average)} each ({between(made.interval, say)}), won{' '}
            {percent(f.group.winRate)}. Without them {told(unit, f.without, 1)} instead of{' '}
            {told(unit, f.all, 1)}. By chance alone: {chance(f.chance)}.
          </span>
        </button>
      </li>
    );
  };
  return (
    <section className="panel shrink-0 px-3 py-2" aria-label="What to stop doing">
      <h2 className="heading">Stop doing</h2>
      {allLose && (
        <p className="py-1">
          <span className="block text-[15px] font-bold">
            Trading like this at all: <span className="num text-down">{say(all.value)}</span> a trade
          </span>
          <span className="block text-[12px] text-quiet">
            All {trades} together lose, {between(all.interval, say)}; costs took {usd(Math.round(costs))}
            {costShare === null ? ', and they lost before costs as well' : ''}. Smaller, or rehearsed, until
            that has changed.
          </span>
        </p>
      )}
      {early.interval && early.interval.low > 0 && (
        <button
          type="button"
          className="block w-full py-1 text-left hover:bg-raised"
          onClick={() => show('left')}
        >
          <span className="block text-[17px] font-bold">
            Touching plans by hand <span className="num text-down">{inR(-early.costR, 1)}</span>
          </span>
          <span className="block text-[12px] text-quiet">
            {early.trades} plans left alone would have made {inR(early.mean)} more each (
            {between(early.interval, inR)}).
          </span>
        </button>
      )}
      {stop.length > 0 ? (
        <ol>{stop.slice(0, 3).map((f, k) => one(f, k === 0))}</ol>
      ) : (
        <p className="py-1 text-[13px] text-quiet">
          {looked === 0
            ? 'Too few days to tell what costs you: it takes groups of ten trades on eight days.'
            : `Of ${looked} groups looked at, none loses more than chance would explain.${suspect ? ' The nearest to it:' : ''}`}
        </p>
      )}
      {suspect && <ol>{one(suspect, false)}</ol>}
      {lost >= 10 && loss.r < DEAR_LOSS && (
        <p className="py-1">
          <span className="block font-semibold">
            Losers cost <span className="num text-down">{inR(loss.r)}</span>, not −1R
          </span>
          <span className="block text-[12px] text-quiet">
            Stops that slip, are moved, or stand too near for the spread and the costs.
          </span>
        </p>
      )}
      {gross > 0 && costShare !== null && costShare > 0.5 && (
        <p className="py-1">
          <span className="block font-semibold">
            Costs: <span className="num text-down">{percent(costShare)}</span> of what was made before them
          </span>
          <span className="block text-[12px] text-quiet">
            {usd(Math.round(costs / trades))} a trade, where a trade makes {usd(Math.round(gross / trades))}.
          </span>
        </p>
      )}
      {early.notYet > 0 && (
        <button
          type="button"
          className="block w-full py-1 text-left text-[13px] text-quiet hover:bg-raised"
          onClick={() => show('left')}
        >
          What touching plans costs is not known yet of {early.notYet}{' '}
          {early.notYet === 1 ? 'trade' : 'trades'}: see Left early.
        </button>
      )}
      {carries.length > 0 && (
        <>
          <h2 className="heading mt-1">Carries the rest</h2>
          <ol>{carries.slice(0, 2).map((f) => one(f, false))}</ol>
        </>
      )}
    </section>
  );
}
