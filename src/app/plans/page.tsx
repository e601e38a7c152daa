import { NotYet } from '@/ui/primitives/NotYet';

export const metadata = { title: 'Plans · Keen Fox' };

export default function Page() {
  return (
    <NotYet
      title="Plans"
      what="Here named exit plans will be drawn and edited on a picture: the stop, the targets and their shares, breakeven, trail and the time limit."
      meanwhile="Exits are written under an entry today: open Keys and look at “Buy 1R”. Its lines stop, target and breakeven are a plan already."
    />
  );
}
