import { SetupView } from '@/ui/setup/SetupView';

export const metadata = { title: 'Setup · Keen Fox' };

export default function Page() {
  return <SetupView />;
}
