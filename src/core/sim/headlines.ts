// What is told of a company that moves. All of it is invented.
import type { NewsItem } from '../market/index.ts';
import { below, type Random } from './random.ts';

type Told = readonly [kind: NewsItem['kind'], text: string];

const GOOD: readonly Told[] = [
  ['contract', 'signs a supply contract over three years'],
  ['contract', 'lands its largest order so far'],
  ['earnings', 'earns more in the quarter than was expected'],
  ['approval', 'gets the clearance that it had asked for'],
  ['partnership', 'enters a partnership with a larger firm'],
  ['guidance', 'raises its outlook for the year'],
  ['trial result', 'reports that its trial met the main goal'],
  ['filing', 'is held by a new owner of a tenth, a filing shows'],
];
const BAD: readonly Told[] = [
  ['offering', 'prices an offering of new shares'],
  ['earnings', 'earns less in the quarter than was expected'],
  ['guidance', 'lowers its outlook for the year'],
  ['filing', 'will file its annual report late'],
  ['contract', 'loses a contract that had been taken for sure'],
  ['trial result', 'reports that its trial missed the main goal'],
];

/** A headline for a step up or down. */
export function headline(r: Random, name: string, by: number): Pick<NewsItem, 'kind' | 'headline'> {
  const list = by > 0 ? GOOD : BAD;
  const [kind, text] = list[below(r, list.length)] as Told;
  return { kind, headline: `${name} ${text}` };
}
