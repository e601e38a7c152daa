import { DeskView } from '@/ui/desk/DeskView';

export const metadata = { title: 'Desk · Keen Fox' };

export default function Page() {
  return <DeskView />;
}
