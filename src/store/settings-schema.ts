import { array, boolean, number, object, string } from 'yup';
import { arrangementSchema } from './arrangement-file.ts';
import { DRAWINGS, type DrawingKind } from './drawing.ts';
import { TICKET_PARTS, type TicketPart } from './ticket-parts.ts';

const script = object({
  id: string().required(),
  name: string().defined(),
  /** However long: the parser says what is too long, and nothing that was written is lost. */
  text: string().defined(),
  /** The version of the language that it is written in. */
  language: number().required(),
  /** Words to find it by; the first is its group in lists. */
  tags: array(string().required().max(30)).required().max(12),
});

/** Keys: each a place on the keyboard (KeyboardEvent.code) or a button of the mouse, with modifiers first. */
const keySet = object({
  id: string().required(),
  name: string().defined().max(40),
  keys: array(object({ chord: string().required(), script: string().required() }))
    .required()
    .max(300),
});
/** Buttons in rows; `wide` ones take twice the room; one with a `group` begins a group of that name. */
const rack = object({
  id: string().required(),
  name: string().defined().max(40),
  rows: array(
    array(object({ script: string().required(), wide: boolean().required(), group: string().max(16) }))
      .required()
      .max(24),
  )
    .required()
    .min(1)
    .max(8),
});

const sort = object({ field: string().required(), down: boolean().required() });

const scan = object({
  id: string().required(),
  name: string().defined(),
  rule: string().defined(),
  ranking: array(object({ field: string().required(), weight: number().required() }))
    .required()
    .min(1)
    .max(6),
  /** Minutes after midnight between which it works. */
  from: number().required(),
  to: number().required(),
  limit: number().required().min(1).max(8_000),
  columns: array(string().required()).required(),
  widths: array(object({ field: string().required(), px: number().required() })).required(),
  sort: sort.nullable().defined(),
});

const plan = object({
  name: string().required().max(40),
  text: string().defined(),
  /** Minutes after midnight between which entries may take it. */
  hours: object({ from: number().required(), to: number().required() }).nullable().defined(),
});
const usual = object({
  by: string<'price' | 'atr'>().oneOf(['price', 'atr']).required(),
  /** Price units; the last band has no upper end, which is kept as 0. */
  bands: array(object({ below: number().required(), reach: number().required(), stop: number().required() }))
    .required()
    .min(1)
    .max(20),
  reachAtr: number().required(),
  stopAtr: number().required(),
});

const row = object({
  symbol: string().required().max(12),
  grade: string().oneOf(['', 'A', 'B', 'C']).defined(),
  note: string().defined(),
});
const rows = array(row).required().max(500);

/** A live pair: symbol '' for the focus; the size as the language writes it; plan '' for the active one. */
const pair = object({
  id: string().required(),
  symbol: string().defined().max(12),
  size: string().required().max(40),
  plan: string().defined().max(40),
  when: string<'now' | 'staged' | 'at the open'>().oneOf(['now', 'staged', 'at the open']).required(),
  market: boolean().required(),
  extended: boolean().required(),
});

const asks = string<'always' | 'risk' | 'never'>().oneOf(['always', 'risk', 'never']).required();

const point = object({ at: number().required(), price: number().required() });
/** What is drawn on charts of a symbol and is no level: on the days that begin with a date. */
const drawing = object({
  id: number().integer().required(),
  kind: string<DrawingKind>()
    .oneOf([...DRAWINGS])
    .required(),
  points: array(point).required().min(1).max(3),
  text: string().defined().max(200),
  colour: string().oneOf(['quiet', 'text', 'condition', 'focus']).required(),
  dashed: boolean().required(),
});

/** What the trader has chosen for the interface. Checked whenever it is read: a file may be old or foreign. */
export const settingsSchema = object({
  theme: string().oneOf(['night', 'dawn']).required(),
  keysOn: boolean().required(),
  /** What waits for a yes, by where it comes from. */
  confirm: object({ keys: asks, buttons: asks, ticket: asks, drags: asks, pair: asks }).required(),
  scripts: array(script.required()).required().max(5_000),
  keySets: array(keySet).required().min(1).max(20),
  keySet: string().required(),
  racks: array(rack).required().min(1).max(20),
  rack: string().required(),
  pairs: array(pair).required().max(8),
  plans: array(plan).required().max(200),
  planLong: string().defined(),
  planShort: string().defined(),
  usual: usual.required(),
  scans: array(scan).required().min(1).max(100),
  /** What the table shows: `scan:ID`, `list:ID`, `past:DATE`, or `shortlist`. */
  shown: string().required(),
  lists: array(object({ id: string().required(), name: string().defined(), rows }))
    .required()
    .max(100),
  /** The chosen candidates of each trading day. */
  shortlists: array(object({ date: string().required(), rows })).required(),
  /** Symbols that a scan leaves out for a day. */
  hidden: array(
    object({ date: string().required(), symbols: array(string().required()).required() }),
  ).required(),
  /** What was written as a candidate's draft, newest last. */
  drafts: array(object({ key: string().required(), text: string().defined() }))
    .required()
    .max(300),
  listColumns: array(string().required()).required(),
  alerts: object({
    volume: number().min(0).max(1).required(),
    muted: boolean().required(),
    notify: boolean().required(),
  }).required(),
  focus: string().defined().default(''),
  /** Hours before and after the regular session on the chart. */
  chartExtended: boolean().defined().default(true),
  /** How the Desk's panels are arranged, and which of them is shown. */
  arrangements: array(arrangementSchema).required().min(1).max(40),
  arrangement: string().required(),
  drawings: array(
    object({
      symbol: string().required().max(12),
      since: string().required(),
      list: array(drawing).required().max(100),
    }),
  )
    .required()
    .max(200),
  /** The first morning: whether it is shown, and its step. */
  guide: object({ on: boolean().required(), step: number().integer().min(0).max(20).required() }).required(),
  /** The zone of a second clock, by its IANA name; '' for none. */
  secondZone: string().defined().max(60),
  /** Columns that the table of orders leaves out. */
  ordersHidden: array(string().required()).required().max(20),
  chainColumns: array(string().required()).required().max(20),
  /** Prints of fewer shares are left out. */
  printsFrom: number().integer().min(0).required(),
  /** The ticket as a form, not as text; what stays in the form after sending; whether its side follows the position. */
  ticketForm: boolean().required(),
  ticketKeeps: array(
    string<TicketPart>()
      .oneOf([...TICKET_PARTS])
      .required(),
  ).required(),
  ticketFollows: boolean().required(),
  /** What an arrow key adds in the ticket: to a price in cents (0: a tick), to a size in shares. */
  ticketSteps: object({
    cents: number().min(0).max(100).required(),
    shares: number().integer().min(1).max(100_000).required(),
  }).required(),
  /** What was done from the palette, newest first. */
  recent: array(string().required()).required().max(20),
});
