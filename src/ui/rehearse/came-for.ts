import { parseScript, purposeOf } from '@/core/language';
import { useSettings } from '../settings';
import { type Draft, type DraftKey, FIRST_KEY } from './draft';
import { changeDraft } from './useDraft';

/** Puts what the trader came with (a script, a plan, a scan or a symbol, by the address) into the form, once. */
export function cameFor(search: string): void {
  const asked = new URLSearchParams(search);
  const change = changeFor(asked);
  if (change) changeDraft(change);
  if (asked.size > 0) history.replaceState(history.state, '', location.pathname);
}

function changeFor(asked: URLSearchParams): Partial<Draft> | null {
  const { scripts, plans, scans } = useSettings.getState();
  const script = scripts.find((s) => s.id === asked.get('script'));
  const plan = plans.find((p) => p.name === asked.get('plan'));
  const scan = scans.find((s) => s.id === asked.get('scan'));
  const symbol = asked.get('symbol');
  const keys = (...list: DraftKey[]): Partial<Draft> => ({ first: { keys: list }, second: { keys: list } });
  if (script) {
    const key = { ...FIRST_KEY, script: script.text };
    const opens = purposeOf(parseScript(script.text).statements) === 'in';
    const named = { name: script.name.slice(0, 60) };
    // What opens nothing is pressed on what another key has opened.
    return opens
      ? { ...named, ...keys(key) }
      : { ...named, ...keys(FIRST_KEY, { ...key, when: 'gain >= 1R', most: '9' }) };
  }
  if (plan)
    return {
      name: plan.name.slice(0, 60),
      ...keys({ ...FIRST_KEY, script: `buy risk 1R at usual through with plan "${plan.name}"` }),
    };
  if (scan) return { who: 'scan', scan: scan.id };
  return symbol ? { who: 'one', symbol } : null;
}
