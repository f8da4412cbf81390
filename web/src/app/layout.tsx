import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import '@fontsource/source-sans-3/latin-400.css';
import '@fontsource/source-sans-3/latin-600.css';
import '@fontsource/source-sans-3/latin-700.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-mono/latin-600.css';
import 'bootstrap-icons/font/bootstrap-icons.css';
import '../styles/theme.scss';
import { KeyProvider } from '../features/frame/keys.tsx';

export const metadata: Metadata = {
  title: { default: 'Ovrel', template: '%s · Ovrel' },
  description: 'Versions of drawings, models, graphics and the documents beside them',
};

export default async function Layout({ children }: { children: React.ReactNode }): Promise<React.ReactNode> {
  const theme = (await cookies()).get('ovrel_theme')?.value === 'dark' ? 'dark' : 'light';
  return (
    <html lang="en" data-bs-theme={theme}>
      <body>
        <KeyProvider>{children}</KeyProvider>
      </body>
    </html>
  );
}
