// Scripts in a file: JSON that says what it is, documented in docs/script-file.md.
import { array, number, object, string, ValidationError } from 'yup';
import { LANGUAGE_VERSION } from '../core/language/index.ts';
import type { SavedScript, Settings } from './settings.ts';

const FORMAT = 'keen-fox-scripts';
const VERSION = 1;
const MOST_SCRIPTS = 5_000;
/** A file of more characters is not looked into. */
const MOST_CHARACTERS = 8_000_000;

/** A script as a file has it: without an id, with its key where it had one. */
export interface FiledScript {
  name: string;
  text: string;
  tags: string[];
  language: number;
  key: string;
}

const fileSchema = object({
  format: string().required().oneOf([FORMAT]),
  version: number().required(),
  scripts: array(
    object({
      name: string().required().max(40),
      text: string().required().max(10_000),
      tags: array(string().required().max(30)).max(12).default([]),
      language: number().integer().min(1).required(),
      key: string().max(60).default(''),
    }).required(),
  )
    .required()
    .max(MOST_SCRIPTS),
});

/** Scripts with the keys that they have in a set, as the text of a file. */
export const scriptFile = (
  scripts: readonly SavedScript[],
  keys: Settings['keySets'][number]['keys'],
): string => {
  const at = new Map(keys.map((k) => [k.script, k.chord]));
  const list = scripts.map(({ id, name, text, tags, language }) => ({
    name,
    text,
    tags,
    language,
    key: at.get(id) ?? '',
  }));
  return `${JSON.stringify({ format: FORMAT, version: VERSION, scripts: list }, null, 2)}\n`;
};

/** The scripts of a file, or in words why it has none that can be taken. Nothing of it is run. */
export function readScriptFile(
  text: string,
): { ok: true; scripts: FiledScript[] } | { ok: false; why: string } {
  const no = (why: string) => ({ ok: false as const, why });
  if (text.length > MOST_CHARACTERS)
    return no(`The file has ${Math.round(text.length / 1e6)} million characters; scripts fit into 8.`);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return no('This is no JSON. A file of scripts is made with “Export”.');
  }
  const { format, version } = (typeof json === 'object' && json !== null ? json : {}) as Record<
    string,
    unknown
  >;
  if (format !== FORMAT)
    return no(
      `This JSON is not a file of scripts: it has no "format": "${FORMAT}". One is made with “Export”.`,
    );
  if (version !== VERSION)
    return no(
      `The file is of version ${String(version).slice(0, 20)}; this program reads version ${VERSION}.`,
    );
  try {
    const { scripts } = fileSchema.validateSync(json, { strict: false, stripUnknown: true });
    const newer = scripts.find((s) => s.language > LANGUAGE_VERSION);
    if (newer)
      return no(
        `“${newer.name}” is written in version ${newer.language} of the language; this program knows up to ${LANGUAGE_VERSION}. Nothing was taken.`,
      );
    return { ok: true, scripts };
  } catch (e) {
    const where = e instanceof ValidationError ? e.message : String(e);
    return no(`The file does not hold scripts as they should be: ${where}. Nothing was taken.`);
  }
}

/** What is to be done with a script whose name is there already. */
export type OnClash = 'both' | 'replace' | 'skip';

/** The names that are there already, and the keys that another script has. */
export function clashesOf(
  filed: readonly FiledScript[],
  scripts: readonly SavedScript[],
  keys: Settings['keySets'][number]['keys'],
): { names: string[]; keys: { chord: string; now: string; wants: string }[] } {
  const byName = new Map(scripts.map((s) => [s.name, s]));
  const byId = new Map(scripts.map((s) => [s.id, s.name]));
  const taken = new Map(keys.map((k) => [k.chord, byId.get(k.script) ?? '']));
  return {
    names: filed.filter((f) => byName.has(f.name)).map((f) => f.name),
    keys: filed.flatMap((f) => {
      const now = f.key === '' ? undefined : taken.get(f.key);
      return now === undefined || now === f.name ? [] : [{ chord: f.key, now, wants: f.name }];
    }),
  };
}

/**
 * Settings with the scripts of a file taken in. A key that another script has stays with that one unless `takeKeys`.
 * `newId` gives a fresh id each time.
 */
export function takenIn(
  s: Pick<Settings, 'scripts' | 'keySets' | 'keySet'>,
  filed: readonly FiledScript[],
  onClash: OnClash,
  takeKeys: boolean,
  newId: () => string,
): Pick<Settings, 'scripts' | 'keySets'> {
  const scripts = [...s.scripts];
  const set = s.keySets.find((k) => k.id === s.keySet) ?? s.keySets[0];
  let keys = [...(set?.keys ?? [])];
  for (const { key, ...f } of filed) {
    const at = scripts.findIndex((x) => x.name === f.name);
    if (at >= 0 && onClash === 'skip') continue;
    const id = at >= 0 && onClash === 'replace' ? (scripts[at] as SavedScript).id : newId();
    if (at >= 0 && onClash === 'replace') scripts[at] = { id, ...f };
    else scripts.push({ id, ...f });
    const owner = keys.find((k) => k.chord === key);
    if (key === '' || (owner && owner.script !== id && !takeKeys)) continue;
    keys = [...keys.filter((k) => k.chord !== key && k.script !== id), { chord: key, script: id }];
  }
  return { scripts, keySets: s.keySets.map((k) => (k === set ? { ...k, keys } : k)) };
}
