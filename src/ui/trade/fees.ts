'use client';

import { DEFAULT_FEES, type FeeTable, tableOn } from '@/core/account';
import { useSession } from '../client';

/** The table of fees that holds today in the account in use. */
export function useFees(): FeeTable {
  const fees = useSession((s) => s.desk?.accounts.find((a) => a.id === s.account?.id)?.fees);
  const date = useSession((s) => s.clock?.date);
  return fees && date ? tableOn(fees, date) : DEFAULT_FEES;
}
