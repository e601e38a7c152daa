import { NotYet } from '@/ui/primitives/NotYet';

export const metadata = { title: 'Options · Keen Fox' };

export default function Page() {
  return (
    <NotYet
      title="Options"
      what="Here the option chain of the symbol in focus will stand: strikes around the money by expiry, implied volatility and greeks, verticals with their payoff, and orders that act on the underlying."
      meanwhile="The demo day trades shares. Pick a candidate in the Scan and trade it on the Desk."
    />
  );
}
