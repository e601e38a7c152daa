'use client';

import { Check, ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import { useState } from 'react';

/** Radix has no value for “none”: it is this one inside. */
const NONE = '—none—';

/** One of several, from a list that opens; '' may be one of the values. */
export function Choice<T extends string>({
  label,
  value,
  options,
  change,
  className = 'w-full',
  disabled = false,
}: {
  label: string;
  value: T;
  options: readonly (readonly [value: T, name: string])[];
  change(value: T): void;
  className?: string;
  disabled?: boolean;
}) {
  const [home, setHome] = useState<HTMLElement | null>(null);
  const name = options.find(([v]) => v === value)?.[1] ?? value;
  return (
    <Select.Root
      value={value === '' ? NONE : value}
      disabled={disabled}
      onValueChange={(v) => change((v === NONE ? '' : v) as T)}
    >
      <Select.Trigger
        ref={(el) => setHome(el?.ownerDocument.body ?? null)}
        className={`field flex min-w-0 items-center gap-1 text-left ${className}`}
        aria-label={label}
      >
        <span className="min-w-0 grow truncate">{name}</span>
        <ChevronDown size={12} className="shrink-0 text-quiet" aria-hidden />
      </Select.Trigger>
      <Select.Portal container={home}>
        <Select.Content
          className="panel z-50 max-h-[60vh] min-w-[var(--radix-select-trigger-width)] overflow-hidden bg-raised shadow-lg"
          position="popper"
          sideOffset={2}
          collisionPadding={8}
        >
          <Select.Viewport className="p-1">
            {options.map(([v, n]) => (
              <Select.Item
                key={v}
                value={v === '' ? NONE : v}
                className="flex cursor-pointer items-center gap-2 px-2 py-0.5 text-[13px] outline-none data-[highlighted]:bg-line"
              >
                <Select.ItemText>{n}</Select.ItemText>
                <Select.ItemIndicator className="ml-auto">
                  <Check size={12} aria-hidden />
                </Select.ItemIndicator>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
