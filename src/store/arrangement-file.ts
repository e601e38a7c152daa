// An arrangement in a file: JSON that says what it is.
import { array, boolean, number, object, string, ValidationError } from 'yup';
import { type Arrangement, isLayout, MOST_CHARTS } from './arrangement.ts';

const FORMAT = 'keen-fox-arrangement';
const VERSION = 1;
/** A file of more characters is not looked into. */
const MOST_CHARACTERS = 100_000;

const look = object({
  panel: string()
    .required()
    .matches(new RegExp(`^chart-[1-${MOST_CHARTS}]$`)),
  symbol: string().defined().max(12),
  minutes: number().integer().required().min(1).max(1_440),
  candles: number().integer().required().min(24).max(600),
  studies: array(string().required().max(40)).required().max(24),
});

/** An arrangement as it is kept, and as a file has it; its layout is checked by its own rule. */
export const arrangementSchema = object({
  id: string().required().max(40),
  name: string().required().max(40),
  trade: boolean().required(),
  rack: boolean().required(),
  layout: object()
    .required()
    .test('layout', 'is not a layout of known panels', (x) => isLayout(x)),
  second: object()
    .nullable()
    .defined()
    .test('layout', 'is not a layout of known panels', (x) => x === null || isLayout(x)),
  charts: array(look).required().max(MOST_CHARTS),
});

/** An arrangement as the text of a file. */
export const arrangementFile = (arrangement: Arrangement): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, arrangement }, null, 2)}\n`;

/** The arrangement of a file, or in words why it has none that can be taken. */
export function readArrangementFile(
  text: string,
): { ok: true; arrangement: Arrangement } | { ok: false; why: string } {
  const no = (why: string) => ({ ok: false as const, why });
  if (text.length > MOST_CHARACTERS) return no('The file is too long for an arrangement.');
  let json: { format?: unknown; version?: unknown; arrangement?: unknown } | null;
  try {
    json = JSON.parse(text);
  } catch {
    return no('This is no JSON. A file of an arrangement is made with “Export”.');
  }
  if (json?.format !== FORMAT)
    return no(`This is not a file of an arrangement: it has no "format": "${FORMAT}".`);
  if (json.version !== VERSION)
    return no(
      `The file is of version ${String(json.version).slice(0, 20)}; this program reads version ${VERSION}.`,
    );
  try {
    const arrangement = arrangementSchema.validateSync(json.arrangement, { strict: true });
    return { ok: true, arrangement: arrangement as Arrangement };
  } catch (e) {
    return no(`The arrangement ${e instanceof ValidationError ? e.message : 'cannot be read'}.`);
  }
}
