import { OptionsView } from '@/ui/options/OptionsView';

export const metadata = { title: 'Options · Keen Fox' };

export default function Page() {
  return <OptionsView />;
}
