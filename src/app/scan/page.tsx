import { ScanView } from '@/ui/scan/ScanView';

export const metadata = { title: 'Scan · Keen Fox' };

export default function Page() {
  return <ScanView />;
}
