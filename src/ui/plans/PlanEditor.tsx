'use client';

import Link from 'next/link';
import { useState } from 'react';
import { explain, parseExits } from '@/core/language';
import { clockOf, MINUTE, parsePrice } from '@/core/units';
import type { Settings } from '@/store/settings';
import { SentenceRows } from '../builder/SentenceRows';
import { useLive, useSession } from '../client';
import { ScriptEditor } from '../editor/ScriptEditor';
import { clock, px, readTime } from '../format';
import { SureButton } from '../primitives/SureButton';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import { PlanPictureView } from './PlanPicture';

type Plan = Settings['plans'][number];
/** The regular session opens at this minute of the day. */
const OPEN = 9 * 60 + 30;

/** One plan: its name and hours, its text, and its picture, which is edited by hand. */
export function PlanEditor({
  plan,
  others,
  change,
  remove,
}: {
  plan: Plan;
  others: readonly Plan[];
  change(c: Partial<Plan>): void;
  remove(): void;
}) {
  const long = useSettings((s) => s.planLong);
  const short = useSettings((s) => s.planShort);
  const set = useSettings((s) => s.set);
  const now = useSession((s) => s.clock?.now ?? 0);
  const [name, setName] = useState(plan.name);
  const [price, setPrice] = useState('');
  const [qty, setQty] = useState('');
  const [from, setFrom] = useState('');
  const nameProblem =
    name.trim() === ''
      ? 'A plan needs a name: sentences call it by that.'
      : others.some((p) => p.name === name.trim())
        ? 'Another plan has this name.'
        : name.includes('"')
          ? 'A name holds no quotes.'
          : '';
  const early = Math.floor(clockOf(now) / MINUTE) <= OPEN;
  const chosenFrom = readTime(from);
  const seen = useLive<'plan'>({
    kind: 'plan',
    text: plan.text,
    price: parsePrice(price),
    qty: /^\d{1,6}$/.test(qty) && Number(qty) > 0 ? Number(qty) : null,
    from: chosenFrom === null ? (early ? 4 * 60 : OPEN) : Math.floor(chosenFrom / MINUTE),
  });
  const [problem] = parseExits(plan.text).problems;
  return (
    <section
      className="panel grid min-h-0 grid-cols-[300px_1fr] gap-4 overflow-auto px-4 py-3"
      aria-label={`Plan ${plan.name}`}
    >
      <div className="flex min-h-0 flex-col gap-3">
        <label>
          <span className="heading block">Name</span>
          <input
            className="field mt-1 w-full"
            value={name}
            maxLength={40}
            aria-invalid={nameProblem !== ''}
            onChange={(e) => setName(e.target.value)}
            onBlur={() => nameProblem === '' && name.trim() !== plan.name && change({ name: name.trim() })}
          />
          {nameProblem && <span className="mt-1 block text-[13px]">⚠ {nameProblem}</span>}
        </label>
        <div>
          <span className="heading block">Exits, a line each</span>
          <div className="mt-1 h-[110px]">
            <ScriptEditor
              label="Exits of the plan"
              value={plan.text}
              change={(text) => change({ text })}
              exits
            />
          </div>
          {problem && (
            <p className="mt-1 text-[13px]" role="alert">
              ⚠ {explain(problem)}
            </p>
          )}
          <div className="mt-2">
            <SentenceRows
              frame="exits"
              label="Exits in words"
              text={plan.text}
              change={(text) => change({ text })}
            />
          </div>
        </div>
        <p>
          <Link
            className="btn"
            href={`/rehearse?plan=${encodeURIComponent(plan.name)}`}
            prefetch={false}
            title="Enter with it by a rule, over many days"
          >
            Rehearse this plan
          </Link>
        </p>
        <Hours hours={plan.hours} change={(hours) => change({ hours })} />
        <fieldset className="text-[13px]">
          <legend className="heading">Taken where none is named</legend>
          <Tick className="mr-4" on={long === plan.name} change={() => set({ planLong: plan.name })}>
            by long
          </Tick>
          <Tick on={short === plan.name} change={() => set({ planShort: plan.name })}>
            by short
          </Tick>
        </fieldset>
        <fieldset className="grid grid-cols-3 gap-2 text-[13px]">
          <legend className="heading">Example in {seen?.symbol ?? 'the focus'}</legend>
          <Field label="price" value={price} set={setPrice} hint={seen ? px(seen.price) : ''} />
          <Field
            label="shares"
            value={qty}
            set={setQty}
            hint={String(seen?.long.picture?.qty ?? seen?.short.picture?.qty ?? 100)}
          />
          <Field label="entered at" value={from} set={setFrom} hint={early ? '04:00' : '09:30'} />
        </fieldset>
        <div className="mt-auto">
          <SureButton label="Delete the plan" sure="Delete it for good" act={remove} className="btn" />
        </div>
      </div>
      {seen ? (
        <PlanPictureView seen={seen} text={plan.text} change={(text) => change({ text })} />
      ) : (
        <p className="text-quiet">The picture is drawn as soon as a symbol is in focus.</p>
      )}
    </section>
  );
}

function Field({
  label,
  value,
  set,
  hint,
}: {
  label: string;
  value: string;
  set(v: string): void;
  hint: string;
}) {
  return (
    <label>
      <span className="block text-quiet">{label}</span>
      <input
        className="field num w-full"
        value={value}
        placeholder={hint}
        onChange={(e) => set(e.target.value)}
      />
    </label>
  );
}

/** Hours in which entries may take the plan. */
function Hours({ hours, change }: { hours: Plan['hours']; change(h: Plan['hours']): void }) {
  const text = (m: number | undefined) => (m === undefined ? '' : clock(m * MINUTE, 'minutes'));
  const [from, setFrom] = useState(text(hours?.from));
  const [to, setTo] = useState(text(hours?.to));
  const [a, b] = [readTime(from), readTime(to)];
  const none = from.trim() === '' && to.trim() === '';
  const problem = none || (a !== null && b !== null && a < b) ? '' : 'From and to, such as 09:30 and 11:00.';
  const keep = () => {
    if (none) change(null);
    else if (problem === '' && a !== null && b !== null)
      change({ from: Math.floor(a / MINUTE), to: Math.floor(b / MINUTE) });
  };
  return (
    <fieldset className="text-[13px]">
      <legend className="heading">Entries take it only</legend>
      <span className="flex items-center gap-2">
        from
        <input
          className="field num w-20"
          aria-label="Entries from"
          value={from}
          placeholder="any time"
          onChange={(e) => setFrom(e.target.value)}
          onBlur={keep}
        />
        to
        <input
          className="field num w-20"
          aria-label="Entries to"
          value={to}
          placeholder="any time"
          onChange={(e) => setTo(e.target.value)}
          onBlur={keep}
        />
      </span>
      {problem && <span className="mt-1 block">⚠ {problem}</span>}
    </fieldset>
  );
}
