import { type Exit, parseScript } from '../language/index.ts';

/** The plans that come with the app, as their exits are written. */
const PLAN_TEXTS: Readonly<Record<string, string>> = {
  'two steps': 'stop usual\ntarget 1R for half\ntarget 2R\nbreakeven after 1.3R',
  'three steps':
    'stop usual\ntarget 1R for third\ntarget 2R for third\ntarget 3R\nbreakeven after target 1 plus costs',
  'half and trail': 'stop usual\ntarget 1R for half\ntrail 1 atr on 5m after 1R\nbreakeven after target 1',
  'candle trail': 'stop beyond 5m candle by 1c\ntrail beyond 1m candle by 1c after 1R',
  'one shot': 'stop usual\ntarget 2.5R\nbreakeven after 1.2R plus costs',
};

/** The exits of a plan; empty where its text has mistakes. */
export function exitsOf(text: string): readonly Exit[] {
  const { statements, problems } = parseScript(`attach\n${text}`);
  const [s] = statements;
  return problems.length === 0 && s?.kind === 'attach' ? s.exits : [];
}

/** The plans that come with the app, by name. */
export const PLANS: Readonly<Record<string, readonly Exit[]>> = Object.fromEntries(
  Object.entries(PLAN_TEXTS).map(([name, text]) => [name, exitsOf(text)]),
);
/** The plan that a turned position takes. */
export const ACTIVE_PLAN = 'two steps';
