import type { AccountRules, FeeTable } from '@/core/account';
import type { DeskSlice } from '@/worker/session/slices';
import { ask } from '../client';

/** An account as it is set up. */
export type Kept = DeskSlice['accounts'][number];

/** Sets an account up anew; what loosens a guard waits for the next day. @returns null when it was refused. */
export const keep = (a: Kept, rules: AccountRules, fees: readonly FeeTable[] = a.fees) =>
  ask({ kind: 'account', id: a.id, rules, fees });
