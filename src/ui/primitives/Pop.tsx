'use client';

import { Popover } from 'radix-ui';
import { type ReactNode, useState } from 'react';

/** A button that opens a small panel below itself; Escape and a press elsewhere close it. */
export function Pop({
  label,
  title,
  children,
  className = 'btn px-2 py-0.5 text-[13px]',
  open,
  onOpenChange,
  ...rest
}: {
  label: ReactNode;
  title: string;
  children: ReactNode;
  className?: string;
  /** Whether it is open, where somebody else opens it too. */
  open?: boolean;
  onOpenChange?(open: boolean): void;
  /** One word of several that arrows go through. */
  'data-word'?: true;
}) {
  // It opens in the window that its button is in.
  const [home, setHome] = useState<HTMLElement | null>(null);
  return (
    <Popover.Root {...(open === undefined ? {} : { open })} {...(onOpenChange ? { onOpenChange } : {})}>
      <Popover.Trigger
        ref={(el) => setHome(el?.ownerDocument.body ?? null)}
        className={className}
        aria-label={title}
        {...rest}
      >
        {label}
      </Popover.Trigger>
      <Popover.Portal container={home}>
        <Popover.Content
          className="panel z-40 max-h-[70vh] overflow-y-auto bg-raised shadow-lg"
          sideOffset={4}
          align="start"
          collisionPadding={8}
          aria-label={title}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
