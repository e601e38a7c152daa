import { count, signed } from '../units/index.ts';
import type { Field } from './fields.ts';

/** How a field's value reads: `+12.4%`, `1.4M`, `3c`; a dash where it is not known. */
export function fieldText({ unit, choices }: Field, value: number): string {
  if (Number.isNaN(value)) return '–';
  switch (unit) {
    case 'percent':
      return signed(value, 1, '%');
    case 'dollars':
      return value >= 1e4 ? count(value) : value.toFixed(value < 1 ? 4 : 2);
    case 'shares':
      return count(value);
    case 'times':
      return `${value.toFixed(value < 10 ? 2 : value < 100 ? 1 : 0)}×`;
    case 'cents':
      return `${value.toFixed(value % 1 ? 2 : 0)}c`;
    case 'minutes':
      return value < 60 ? `${value}m` : `${Math.floor(value / 60)}h${String(value % 60).padStart(2, '0')}`;
    case 'atr':
      return signed(value, 2);
    case 'bp':
      return value.toFixed(value < 10 ? 1 : 0);
    case 'count':
      return count(value);
    case 'choice':
      return choices?.[value] ?? '–';
    case 'flag':
      return value === 1 ? 'yes' : 'no';
  }
}

/** Whether up and down have a colour in this field: a rise or a fall of the price. */
export const isMove = (name: string): boolean => /^(gap|change|speed)/.test(name);
