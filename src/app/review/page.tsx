import { ReviewView } from '@/ui/review/ReviewView';

export const metadata = { title: 'Review · Keen Fox' };

export default function Page() {
  return <ReviewView />;
}
