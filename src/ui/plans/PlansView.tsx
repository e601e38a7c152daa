'use client';

import { useState } from 'react';
import { useSettings } from '../settings';
import { WaitingList } from '../waiting/WaitingOrders';
import { PlanEditor } from './PlanEditor';
import { UsualTable } from './UsualTable';

/** Plans: named sets of exits as text and as a picture, the usual distances, and what waits. */
export function PlansView() {
  const plans = useSettings((s) => s.plans);
  const long = useSettings((s) => s.planLong);
  const short = useSettings((s) => s.planShort);
  const set = useSettings((s) => s.set);
  const [chosen, setChosen] = useState(plans[0]?.name ?? '');
  const plan = plans.find((p) => p.name === chosen) ?? plans[0];
  const unused = (name: string): string => {
    let free = name;
    for (let n = 2; plans.some((p) => p.name === free); n++) free = `${name} ${n}`;
    return free;
  };
  const add = (text: string, name: string) => {
    const fresh = { name: unused(name), text, hours: null };
    set({ plans: [...plans, fresh] });
    setChosen(fresh.name);
  };
  return (
    <main className="grid h-full grid-cols-[238px_1fr] grid-rows-[1fr_auto] gap-1.5 p-1.5">
      <div className="grid min-h-0 grid-rows-[1fr_auto] gap-1.5">
        <section className="panel flex min-h-0 flex-col" aria-label="Plans">
          <h1 className="heading px-3 pt-2">Exit plans</h1>
          <ul className="min-h-0 grow overflow-y-auto">
            {plans.map((p) => (
              <li key={p.name}>
                <button
                  type="button"
                  aria-pressed={p.name === plan?.name}
                  onClick={() => setChosen(p.name)}
                  className={`flex w-full items-baseline gap-2 px-3 py-1 text-left hover:bg-raised ${p.name === plan?.name ? 'bg-raised' : ''}`}
                >
                  <span className="grow">{p.name}</span>
                  {p.name === long && <span className="text-[12px] text-up">long</span>}
                  {p.name === short && <span className="text-[12px] text-down">short</span>}
                </button>
              </li>
            ))}
          </ul>
          {plans.length === 0 && (
            <p className="px-3 py-2 text-quiet">No plans. “New” makes one; write its exits a line each.</p>
          )}
          <div className="flex gap-1 p-2">
            <button
              type="button"
              className="btn grow"
              onClick={() => add('stop usual\ntarget 1R for half\ntarget 2R', 'new plan')}
            >
              New
            </button>
            <button
              type="button"
              className="btn"
              disabled={!plan}
              onClick={() => plan && add(plan.text, plan.name)}
            >
              Duplicate
            </button>
          </div>
        </section>
        <UsualTable />
      </div>
      {plan ? (
        <PlanEditor
          key={plan.name}
          plan={plan}
          others={plans.filter((p) => p !== plan)}
          change={(c) => {
            set({
              plans: plans.map((p) => (p === plan ? { ...p, ...c } : p)),
              ...(c.name !== undefined && long === plan.name ? { planLong: c.name } : {}),
              ...(c.name !== undefined && short === plan.name ? { planShort: c.name } : {}),
            });
            if (c.name !== undefined) setChosen(c.name);
          }}
          remove={() => set({ plans: plans.filter((p) => p !== plan) })}
        />
      ) : (
        <section className="panel p-6 text-quiet">Choose a plan, or make one.</section>
      )}
      <section
        className="panel col-span-2 max-h-[150px] overflow-y-auto px-3 py-2"
        aria-label="What waits for a condition"
      >
        <h2 className="heading mb-1">Waiting for a condition</h2>
        <WaitingList />
      </section>
    </main>
  );
}
