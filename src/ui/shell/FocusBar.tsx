'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { Switch } from 'radix-ui';
import { Fragment } from 'react';
import { AlertBell } from '../alerts/AlertBell';
import { useSession } from '../client';
import { Arrangements } from '../desk/Arrangements';
import { px, signed } from '../format';
import { useHands } from '../hands/hands';
import { PaletteDoor } from '../palette/PaletteDoor';
import { useSettings } from '../settings';
import { WaitingOrders } from '../waiting/WaitingOrders';
import { AccountSheet } from './AccountSheet';
import { Part } from './Boundary';

const VIEWS = [
  ['Scan', '/scan'],
  ['Desk', '/desk'],
  ['Options', '/options'],
  ['Keys', '/keys'],
  ['Plans', '/plans'],
  ['Rehearse', '/rehearse'],
  ['Review', '/review'],
  ['Setup', '/setup'],
] as const;

/** The views, the symbol and account that keys act on, and the one switch for all keys. */
export function FocusBar() {
  const path = usePathname();
  const keysOn = useSettings((s) => s.keysOn);
  const typing = useHands((s) => s.typing);
  const set = useSettings((s) => s.set);
  return (
    <div className="flex h-[42px] items-center gap-3 overflow-hidden border-b max-[1200px]:h-auto max-[1200px]:flex-wrap max-[1200px]:py-1 border-line px-3 whitespace-nowrap">
      <nav aria-label="Views" className="flex">
        {VIEWS.map(([name, href]) => (
          <Fragment key={href}>
            <Link
              href={href}
              prefetch={false}
              aria-current={path.startsWith(href) ? 'page' : undefined}
              className="border-b-2 border-transparent px-1.5 py-1 text-quiet hover:text-text aria-[current=page]:border-text aria-[current=page]:text-text"
            >
              {name}
            </Link>
            {name === 'Desk' && path.startsWith(href) && <Arrangements />}
          </Fragment>
        ))}
      </nav>
      <section
        className="ml-auto flex items-center gap-1.5 max-[1200px]:flex-wrap"
        aria-label="Focus, account and keys"
      >
        <Part name="The focus">
          <FocusNow />
        </Part>
        <Part name="The account">
          <AccountSheet />
        </Part>
        <Part name="The search">
          <PaletteDoor />
        </Part>
        <Part name="What waits">
          <WaitingOrders />
        </Part>
        <Part name="The alerts">
          <AlertBell />
        </Part>
        <Switch.Root
          checked={keysOn}
          aria-label="Keys"
          className={`btn w-[80px] px-1 text-center font-semibold ${!keysOn ? 'text-quiet line-through' : typing ? 'border-dashed text-quiet' : 'text-focus'}`}
          onCheckedChange={(on) => set({ keysOn: on })}
        >
          {!keysOn ? 'Keys off' : typing ? 'Typing …' : 'Keys on'}
        </Switch.Root>
      </section>
    </div>
  );
}

/** The symbol that keys act on, with its price: the only part of the bar that moves with it. */
function FocusNow() {
  const symbol = useSession((s) => s.focus?.symbol ?? '–');
  const last = useSession((s) => s.focus?.last ?? null);
  const change = useSession((s) => s.focus?.change ?? null);
  const status = useSession((s) => s.focus?.status ?? 'trading');
  return (
    <span className="flex items-baseline gap-2" aria-label="Symbol in focus">
      <span className="num text-lg leading-6 font-bold text-focus" data-testid="focus-symbol">
        {symbol}
      </span>
      <span className="num">{px(last)}</span>
      {/* Status and change share one place of one width: nothing beside it moves. */}
      <span className="inline-block w-[92px]">
        {status !== 'trading' ? (
          <span className="border border-text px-1 text-[12px] font-bold">{status}</span>
        ) : (
          change !== null && (
            <span className={`num ${change >= 0 ? 'text-up' : 'text-down'}`}>{signed(change, 1, '%')}</span>
          )
        )}
      </span>
    </span>
  );
}
