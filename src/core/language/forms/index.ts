// Every form of the language. From these alone come parser, printer, marks, completion, rows and the reference page.
import type { Chapter, Declared, Part } from '../grammar.ts';
import type { Slot } from '../slots.ts';
import { CONDITIONS } from './conditions.ts';
import { ACCOUNTS, DESK } from './desk.ts';
import { EXITS } from './exits.ts';
import { INSTRUMENTS, WITH_OPTIONS } from './instruments.ts';
import { MANAGING } from './managing.ts';
import { ORDERS } from './orders.ts';
import { OFFSETS, PRICES } from './prices.ts';
import { LIVES, PRICING } from './pricing.ts';
import { REFERENCES } from './references.ts';
import { SIZES } from './sizes.ts';
import { CHAINS, WAITS, WITH_BLOCKS } from './waits.ts';

/** The forms by their kinds. */
export const FORMS = {
  ...ORDERS,
  ...SIZES,
  ...INSTRUMENTS,
  ...PRICING,
  ...LIVES,
  ...PRICES,
  ...REFERENCES,
  ...OFFSETS,
  ...EXITS,
  ...WAITS,
  ...CONDITIONS,
  ...CHAINS,
  ...MANAGING,
  ...ACCOUNTS,
  ...DESK,
} as const satisfies Readonly<Record<string, Declared<readonly Slot[], readonly Part[]>>>;

/** What forms there are. */
export type Kind = keyof typeof FORMS;
type Form = Declared<readonly Slot[], readonly Part[]>;
/** A form with all that may be said of it. */
export const formOf = (kind: Kind): Form => FORMS[kind] as Form;
export const KINDS = Object.keys(FORMS) as readonly Kind[];

/** The forms in groups, as the reference page shows them. */
export const GROUPS: readonly {
  name: string;
  forms: Readonly<Record<string, Form>>;
  chapter?: Chapter;
}[] = [
  { name: 'Orders', forms: ORDERS },
  { name: 'Sizes', forms: SIZES },
  { name: 'Options and verticals', forms: INSTRUMENTS, chapter: WITH_OPTIONS },
  { name: 'How an order is priced', forms: PRICING },
  { name: 'How long it lives', forms: LIVES },
  { name: 'Prices', forms: PRICES },
  { name: 'Prices by name', forms: REFERENCES },
  { name: 'Distances', forms: OFFSETS },
  { name: 'Exits', forms: EXITS },
  { name: 'What waits, and blocks', forms: WAITS, chapter: WITH_BLOCKS },
  { name: 'Conditions', forms: CONDITIONS },
  { name: 'Orders that belong together', forms: CHAINS },
  { name: 'Managing what works', forms: MANAGING },
  { name: 'Accounts', forms: ACCOUNTS },
  { name: 'The desk', forms: DESK },
];
