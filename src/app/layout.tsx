import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Shell } from '@/ui/shell/Shell';
import './globals.css';

export const metadata: Metadata = { title: 'Keen Fox', description: "A day trader's whole job in one tab." };

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" data-theme="night" suppressHydrationWarning>
      <body>
        <Shell>{children}</Shell>
      </body>
    </html>
  );
}
