'use client';

import { Plus, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { type Condition, explain, parseRule, printTree } from '@/core/language';
import { FIELDS, fieldOf, fieldText } from '@/core/market';
import { clausesOf, joined } from '@/core/scan';
import { Choice } from '../primitives/Choice';
import { firstClause } from './rule-words';

interface Props {
  rule: string;
  change(text: string): void;
  values: Float64Array | null;
}

/** The same rule as rows of choices: each edits the tree, which is printed back as the text. */
export function ClauseForm({ rule, change, values }: Props) {
  const parsed = parseRule(rule);
  if (!parsed.ok && rule.trim() !== '')
    return (
      <p className="py-1 text-[13px]">
        ⚠ {explain(parsed.problem)}{' '}
        <span className="text-quiet">Mend it as text first; nothing of it is lost.</span>
      </p>
    );
  const clauses = parsed.ok ? clausesOf(parsed.rule) : [];
  // A row is its field, the how-manieth of that: it stays the same row while its value changes.
  const keys = clauses.map(
    (c, k) => `${nameOf(c)} ${clauses.slice(0, k).filter((x) => nameOf(x) === nameOf(c)).length}`,
  );
  const put = (next: readonly Condition[]) => {
    const whole = joined(next);
    change(whole ? printTree(whole) : '');
  };
  const replace = (k: number, text: string) => {
    const part = parseRule(text);
    if (part.ok) put(clauses.map((c, j) => (j === k ? part.rule : c)));
  };
  return (
    <ul className="flex max-h-24 flex-wrap gap-x-4 gap-y-1 overflow-y-auto py-0.5" aria-label="Clauses">
      {clauses.map((c, k) => (
        <li key={keys[k]} className="flex items-center gap-1 text-[13px]">
          <ClauseRow clause={c} values={values} replace={(text) => replace(k, text)} />
          <button
            type="button"
            className="text-quiet hover:text-text"
            aria-label={`Remove the clause ${printTree(c)}`}
            onClick={() => put(clauses.filter((_, j) => j !== k))}
          >
            <X size={14} aria-hidden />
          </button>
        </li>
      ))}
      <li className="flex items-center gap-1">
        <Plus size={14} aria-hidden className="text-quiet" />
        <Choice
          label="Add a clause"
          className="w-44 py-0.5 text-[13px]"
          value=""
          options={[['', 'add a clause…'], ...FIELDS.map((f) => [f.name, f.name] as const)]}
          change={(name) => {
            const part = name === '' ? null : parseRule(firstClause(fieldOf(name)));
            if (part?.ok) put([...clauses, part.rule]);
          }}
        />
      </li>
    </ul>
  );
}

/** What a clause is about. */
const nameOf = (c: Condition): string => ('field' in c ? c.field : c.kind);

function ClauseRow({
  clause,
  values,
  replace,
}: {
  clause: Condition;
  values: Float64Array | null;
  replace(text: string): void;
}) {
  if (!('field' in clause))
    return (
      <span className="num" title="Joined by or, not or brackets: change it as text">
        {printTree(clause)}
      </span>
    );
  const field = fieldOf(clause.field);
  const now = values?.[FIELDS.indexOf(field)] ?? Number.NaN;
  return (
    <>
      <Choice
        label="Field"
        className="w-44 py-0.5"
        value={clause.field}
        options={FIELDS.map((f) => [f.name, f.name] as const)}
        change={(name) => replace(firstClause(fieldOf(name)))}
      />
      {clause.kind === 'is' && (
        <>
          <Choice<'is' | 'is not'>
            label="Is or is not"
            className="w-20 py-0.5"
            value={clause.not ? 'is not' : 'is'}
            options={[
              ['is', 'is'],
              ['is not', 'is not'],
            ]}
            change={(is) => replace(`${clause.field} ${is} ${clause.choice}`)}
          />
          <Choice
            label="Value"
            className="w-28 py-0.5"
            value={clause.choice}
            options={(field.choices ?? []).map((x) => [x, x] as const)}
            change={(choice) => replace(`${clause.field} is ${clause.not ? 'not ' : ''}${choice}`)}
          />
        </>
      )}
      {(clause.kind === 'compare' || clause.kind === 'between') && (
        <Bounds clause={clause} replace={replace} />
      )}
      <span className="num text-[12px] text-quiet" title="Of the symbol in focus, now">
        {fieldText(field, now)}
      </span>
    </>
  );
}

type Bounded = Extract<Condition, { kind: 'compare' | 'between' }>;

/** The comparison and its values. What is typed stays until it reads. */
function Bounds({ clause, replace }: { clause: Bounded; replace(text: string): void }) {
  const written = printTree(clause).slice(clause.field.length + 1);
  const parts =
    clause.kind === 'between'
      ? written.replace('between ', '').split(' and ')
      : [written.replace(/^\S+ /, '')];
  const op = clause.kind === 'between' ? 'between' : clause.op;
  const [typed, setTyped] = useState(parts);
  const [problem, setProblem] = useState<string | null>(null);
  const textOf = (o: string, v: readonly string[]) =>
    o === 'between' ? `${clause.field} between ${v[0]} and ${v[1] ?? v[0]}` : `${clause.field} ${o} ${v[0]}`;
  const key = printTree(clause);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is typed gives way only when the clause becomes another one
  useEffect(() => {
    const read = parseRule(textOf(op, typed));
    if (read.ok && printTree(read.rule) === key) return;
    setTyped(parts);
    setProblem(null);
  }, [key]);
  const tryOut = (v: string[]) => {
    setTyped(v);
    const read = parseRule(textOf(op, v));
    setProblem(read.ok ? null : explain(read.problem));
    if (read.ok) replace(textOf(op, v));
  };
  return (
    <>
      <Choice<string>
        label="Comparison"
        className="w-24 py-0.5"
        value={op}
        options={['>', '>=', '<', '<=', 'between'].map((o) => [o, o] as const)}
        change={(o) => replace(textOf(o, parts))}
      />
      {typed.map((t, k) => (
        <input
          key={k}
          className="field num w-20 py-0.5"
          aria-label={typed.length === 1 ? 'Value' : k === 0 ? 'Lower value' : 'Upper value'}
          aria-invalid={problem !== null}
          title={problem ?? undefined}
          value={t}
          onChange={(e) => tryOut(typed.map((x, j) => (j === k ? e.target.value : x)))}
        />
      ))}
      {problem && <span className="max-w-60 text-[12px]">⚠ {problem}</span>}
    </>
  );
}
