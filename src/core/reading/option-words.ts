import { formatPrice } from '../units/index.ts';
import type { Reason } from './reasons.ts';

type OptionReason = Extract<
  Reason,
  {
    code: 'no contract' | 'which contract' | 'far strike' | 'leg alone' | 'contracts of stock' | 'net price';
  }
>;

/** Why a sentence about an option cannot go now. */
export function optionReasonText(r: OptionReason): string {
  switch (r.code) {
    case 'no contract':
      return `${r.because}. The chain under Options lists what there is.`;
    case 'which contract': {
      const what = r.vertical ? `${r.right} verticals` : `${r.right}s`;
      if (r.held.length === 0)
        return r.others.length === 0
          ? `No ${what} of ${r.root} are held.`
          : `None of the ${what} of ${r.root} that are held is this one: ${r.others.join('; ')}.`;
      return `Several ${what} of ${r.root} are held: ${r.held.join('; ')}. Name one of them.`;
    }
    case 'far strike':
      return `A strike of ${formatPrice(r.strike)} is more than 25 % from ${r.root} at ${formatPrice(r.spot)}. If it is meant, name it by its distance: 2 out, 30 delta.`;
    case 'leg alone':
      return r.vertical === null
        ? `${r.leg} stands behind what is short: closed alone it leaves ${r.left}.`
        : `${r.leg} is held as a leg of ${r.vertical}. Closed alone it takes the two apart and leaves ${r.left}.`;
    case 'contracts of stock':
      return `${r.symbol} is a stock: ${r.contracts} contracts would be options. For shares write ${r.contracts * 100} or ${r.contracts}.`;
    case 'net price':
      return r.said
        ? `${r.symbol} is sold and bought so that it can only be a ${r.net}. Write: at … ${r.net}.`
        : `The net price of a vertical says which way the money goes; here it is a ${r.net}. Write: at … ${r.net}.`;
  }
}
