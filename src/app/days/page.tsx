import { DaysView } from '@/ui/days/DaysView';

export const metadata = { title: 'Practice days · Keen Fox' };

export default function Page() {
  return <DaysView />;
}
