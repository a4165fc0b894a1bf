import { QueryClient, QueryClientProvider, notifyManager } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Entrance } from './areas/account/entrance.js';
import { ProblemError } from './client/api.js';
import { watchPresses, whenReleased } from './client/pressed.js';
import { Session } from './client/session.js';
import { Shell } from './frame/shell.js';
import { applyLight } from './frame/theme.js';
import { PAGES } from './routes.js';
import './style.css';

/** Nothing is said before something was done: what says it comes after the first screen, and all goes on without it. */
const Corner = lazy(async (): Promise<{ default: () => ReactNode }> => {
  try {
    const { Toaster } = await import('sonner');
    const toastOptions = { className: 'insel-toast' };
    return {
      default: () => <Toaster position="bottom-right" offset={60} toastOptions={toastOptions} />,
    };
  } catch {
    return { default: () => null };
  }
});

applyLight();
watchPresses(document);
notifyManager.setScheduler((notify) => setTimeout(() => whenReleased(notify)));

/** What the server has answered with a refusal is not asked again. */
const isFinal = (error: Error): boolean =>
  error instanceof ProblemError && error.problem.status >= 400 && error.problem.status < 500;

const client = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 30_000, retry: (count, error) => count < 3 && !isFinal(error) },
  },
});

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <Session entrance={(first) => <Entrance first={first} />}>
          <Routes>
            <Route element={<Shell />}>{PAGES}</Route>
          </Routes>
        </Session>
      </BrowserRouter>
      <Suspense>
        <Corner />
      </Suspense>
    </QueryClientProvider>
  </StrictMode>,
);
