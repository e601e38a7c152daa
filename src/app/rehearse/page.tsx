import { RehearseView } from '@/ui/rehearse/RehearseView';

export const metadata = { title: 'Rehearse · Keen Fox' };

export default function Page() {
  return <RehearseView />;
}
