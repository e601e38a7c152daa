'use client';

import { Check } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import { type ReactNode, useId } from 'react';

/** Something that is on or off, with its words beside it. */
export function Tick({
  on,
  change,
  children,
  label,
  disabled = false,
  className = '',
}: {
  on: boolean;
  change(on: boolean): void;
  /** Its words; or `label`, where they are not to be seen. */
  children?: ReactNode;
  label?: string;
  disabled?: boolean;
  className?: string;
}) {
  const id = useId();
  return (
    <span className={`inline-flex items-center gap-1.5 ${className}`}>
      <Checkbox.Root
        id={id}
        checked={on}
        disabled={disabled}
        aria-label={label}
        onCheckedChange={(c) => change(c === true)}
        className="flex h-[15px] w-[15px] shrink-0 items-center justify-center rounded-[3px] border border-quiet bg-ground data-[state=checked]:border-text disabled:opacity-50"
      >
        <Checkbox.Indicator>
          <Check size={12} strokeWidth={3} aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      {children !== undefined && <label htmlFor={id}>{children}</label>}
    </span>
  );
}
