import { KeysView } from '@/ui/keys/KeysView';

export const metadata = { title: 'Keys · Keen Fox' };

export default function Page() {
  return <KeysView />;
}
