import '@fontsource-variable/hanken-grotesk/index.css';
import '@fontsource-variable/sometype-mono/index.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider, useRouteError } from 'react-router';
import { StyleSheetManager } from 'styled-components';
import { Button, Main, Note, PageFrame, ThemeRoot } from './kit';
import { AccessGate } from './screens/AccessGate';
import { Library } from './screens/library/Library';
import { SettingsScreen } from './screens/SettingsScreen';
import { beginOpening } from './session/opening';

const workbench = (): Promise<typeof import('./screens/workbench/Workbench')> =>
  import('./screens/workbench/Workbench');
// at an asset's address its chunk and its sculpt are asked for at once, not only when the first render comes to them
const [, asset, screen] = /^\/a\/([\w-]+)\/(\w+)/.exec(location.pathname) ?? [];
if (asset && screen !== 'versions') {
  beginOpening(asset);
  void workbench();
}
const Workbench = lazy(workbench);
const Versions = lazy(() => import('./screens/Versions'));
const Jobs = lazy(() => import('./screens/Jobs'));

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 2000 } } });

function NotHere(): React.ReactNode {
  return (
    <PageFrame>
      <Main>
        <h1>Nothing here</h1>
        <Note>There is no screen at this address. The Library, above, has all assets.</Note>
      </Main>
    </PageFrame>
  );
}

/** In place of a screen that failed while it was drawn. The document is in this browser's log, whatever the page did. */
function Broken(): React.ReactNode {
  const error = useRouteError();
  return (
    <Main>
      <h1>This screen stopped</h1>
      <p role="alert">
        Something in Half Loop went wrong while it drew this screen. Your work up to the last step is kept in this
        browser; open the page again to go on.
      </p>
      <Note>{error instanceof Error ? error.message : String(error)}</Note>
      <Button onPress={() => location.reload()}>Open it again</Button>
    </Main>
  );
}

/** The gate stands inside the router, since its frame has links. */
const gated = (element: React.ReactNode): React.ReactNode => <AccessGate>{element}</AccessGate>;
const router = createBrowserRouter([
  {
    errorElement: <Broken />,
    children: [
      { path: '/', element: gated(<Library />) },
      { path: '/a/:asset/versions', element: gated(<Versions />) },
      { path: '/a/:asset/:stage', element: gated(<Workbench />) },
      { path: '/jobs', element: gated(<Jobs />) },
      { path: '/settings', element: <SettingsScreen /> },
      { path: '*', element: <NotHere /> },
    ],
  },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <StyleSheetManager nonce={nonce}>
      <ThemeRoot>
        <QueryClientProvider client={queries}>
          <Suspense fallback={<Note style={{ padding: 24 }}>Opening …</Note>}>
            <RouterProvider router={router} />
          </Suspense>
        </QueryClientProvider>
      </ThemeRoot>
    </StyleSheetManager>
  </StrictMode>,
);
