import { PlansView } from '@/ui/plans/PlansView';

export const metadata = { title: 'Plans · Keen Fox' };

export default function Page() {
  return <PlansView />;
}
