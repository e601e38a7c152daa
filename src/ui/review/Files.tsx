'use client';

import { ALL } from '@/core/review';
import type { KeptImport } from '@/store/kept';
import { SureButton } from '../primitives/SureButton';
import { askReview, readAgain, useAsked, useLens } from './asked';
import { TakeIn } from './TakeIn';
import { TakeOut } from './TakeOut';
import { WholeApp } from './WholeApp';

/** Executions in from any file, trades and executions out. */
export default function Files() {
  return (
    <div className="grid min-h-0 auto-rows-min grid-cols-[1fr_400px] gap-1.5 overflow-y-auto">
      <TakeIn />
      <div className="flex flex-col gap-1.5">
        <TakeOut />
        <Imports />
        <WholeApp />
      </div>
    </div>
  );
}

/** Files that were taken in; each can be taken out again. */
function Imports() {
  const version = useLens((s) => s.version);
  const { answer } = useAsked({ kind: 'overview', filter: ALL, unit: null });
  const list: KeptImport[] = answer?.imports ?? [];
  return (
    <section className="panel px-3 py-2 text-[13px]" aria-label="Files taken in" key={version}>
      <h2 className="heading">Files taken in</h2>
      {list.length === 0 && <p className="text-quiet">None yet.</p>}
      <ul>
        {list.map((i) => (
          <li key={i.id} className="flex items-baseline gap-2 py-0.5">
            <span className="truncate">{i.file}</span>
            <span className="num text-quiet">
              {i.trades} trades, {i.made}
            </span>
            <span className="ml-auto">
              <SureButton
                label="Take out"
                sure="Really: its trades and what is said of them go"
                act={() => void askReview({ kind: 'remove import', id: i.id }).then(readAgain)}
              />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
