import type { Purpose } from '@/core/language';

/** How a purpose looks on keys and buttons: a sign as well as a colour, so that neither has to be told apart alone. */
export const PURPOSES: Readonly<Record<Purpose, { sign: string; name: string; color: string }>> = {
  in: { sign: '◢', name: 'in', color: 'var(--up)' },
  out: { sign: '◤', name: 'out', color: 'var(--down)' },
  protect: { sign: '◈', name: 'protect', color: 'var(--condition)' },
  cancel: { sign: '✕', name: 'cancel', color: 'var(--quiet)' },
  size: { sign: '≡', name: 'size', color: 'var(--text)' },
  see: { sign: '◌', name: 'see', color: 'var(--quiet)' },
};
