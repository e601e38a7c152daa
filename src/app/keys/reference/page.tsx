import { ReferenceView } from '@/ui/keys/ReferenceView';

export const metadata = { title: 'The language · Keen Fox' };

export default function Page() {
  return <ReferenceView />;
}
