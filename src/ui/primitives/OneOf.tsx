'use client';

import { RadioGroup } from 'radix-ui';
import { type ReactNode, useId } from 'react';

/** One of a few, all in sight. */
export function OneOf<T extends string>({
  label,
  value,
  options,
  change,
  className = 'flex gap-4',
}: {
  label: string;
  value: T;
  /** Each with its words; and what stands beside it. */
  options: readonly (readonly [value: T, name: ReactNode, beside?: ReactNode])[];
  change(value: T): void;
  className?: string;
}) {
  const id = useId();
  return (
    <RadioGroup.Root
      value={value}
      aria-label={label}
      className={className}
      onValueChange={(v) => change(v as T)}
    >
      {options.map(([v, name, beside]) => (
        <span key={v} className="inline-flex items-center gap-1.5">
          <RadioGroup.Item
            id={`${id} ${v}`}
            value={v}
            className="flex h-[15px] w-[15px] items-center justify-center rounded-full border border-quiet bg-ground data-[state=checked]:border-text"
          >
            <RadioGroup.Indicator className="h-[7px] w-[7px] rounded-full bg-text" />
          </RadioGroup.Item>
          <label htmlFor={`${id} ${v}`}>{name}</label>
          {beside}
        </span>
      ))}
    </RadioGroup.Root>
  );
}
