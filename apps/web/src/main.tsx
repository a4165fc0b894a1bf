import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { People } from './areas/account/people.js';
import { ThisMachinePage } from './areas/account/this-machine.js';
import { Chart } from './areas/chart/chart.js';
import { Clones } from './areas/clones/clones.js';
import { MakeClonesPage } from './areas/clones/make-clones.js';
import { FindingsPage } from './areas/findings/findings.js';
import { GuestBuildPage } from './areas/guests/build-page.js';
import { EndPage } from './areas/guests/end-page.js';
import { Guests } from './areas/guests/guests.js';
import { MediaPage } from './areas/guests/media-page.js';
import { NewGuest } from './areas/guests/new-guest.js';
import { RolesPage } from './areas/guests/roles-page.js';
import { SamplesPage } from './areas/guests/samples-page.js';
import { SizePage } from './areas/guests/size-page.js';
import { StartOrderPage } from './areas/guests/start-order.js';
import { GuestRoom } from './areas/guests/strip.js';
import { GuestTablePage } from './areas/guests/table-page.js';
import { AlikePage } from './areas/hosts/alike-page.js';
import { BuildSheetPage } from './areas/hosts/build-sheet-page.js';
import { FactsPage } from './areas/hosts/facts-page.js';
import { HardwarePage } from './areas/hosts/hardware-page.js';
import { Hosts } from './areas/hosts/hosts.js';
import { NewHost } from './areas/hosts/new-host.js';
import { TablePage } from './areas/hosts/table-page.js';
import { PlacesPage } from './areas/places/places.js';
import { Log } from './areas/log/log.js';
import { Migrations } from './areas/migrations/migrations.js';
import { NewMigration } from './areas/migrations/new-migration.js';
import { DevicesPage } from './areas/networks/devices-page.js';
import { ListPage } from './areas/networks/list-page.js';
import { MatrixPage } from './areas/networks/matrix-page.js';
import { NamesPage } from './areas/networks/names-page.js';
import { Networks } from './areas/networks/networks.js';
import { NewNetwork } from './areas/networks/new-network.js';
import { PatchPage } from './areas/networks/patch-page.js';
import { PlanPage } from './areas/networks/plan-page.js';
import { ReachPage } from './areas/networks/reach-page.js';
import { Room } from './areas/networks/strip.js';
import { SwitchesPage } from './areas/networks/switches-page.js';
import { ProblemError } from './frame/api.js';
import { Session } from './frame/session.js';
import { Shell } from './frame/shell.js';
import { applyLight } from './frame/theme.js';
import './style.css';

applyLight();

/** Charts come with a library of their own, read when the page is opened. */
const ArraysPage = lazy(() =>
  import('./areas/hosts/arrays-page.js').then((page) => ({ default: page.ArraysPage })),
);

const PoolsPage = lazy(() =>
  import('./areas/guests/pools-page.js').then((page) => ({ default: page.PoolsPage })),
);
const UsePage = lazy(() =>
  import('./areas/guests/use-page.js').then((page) => ({ default: page.UsePage })),
);

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (count, error) =>
        count < 3 &&
        !(
          error instanceof ProblemError &&
          error.problem.status >= 400 &&
          error.problem.status < 500
        ),
    },
  },
});

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <Session>
          <Routes>
            <Route element={<Shell />}>
              <Route path="hosts/new" element={<NewHost />} />
              <Route path="chart" element={<Chart />} />
              <Route path="hosts/facts" element={<FactsPage />} />
              <Route path="hosts/table" element={<TablePage />} />
              <Route
                path="hosts/arrays"
                element={
                  <Suspense fallback={null}>
                    <ArraysPage />
                  </Suspense>
                }
              />
              <Route path="hosts/places" element={<PlacesPage />} />
              <Route path="hosts/:id/hardware" element={<HardwarePage />} />
              <Route path="hosts/:id/alike" element={<AlikePage />} />
              <Route path="hosts/:id/build-sheet" element={<BuildSheetPage />} />
              <Route path="hosts/:id?" element={<Hosts />} />
              <Route path="networks/new" element={<NewNetwork />} />
              <Route
                path="networks/patch"
                element={
                  <Room>
                    <PatchPage />
                  </Room>
                }
              />
              <Route
                path="networks/reach"
                element={
                  <Room>
                    <ReachPage />
                  </Room>
                }
              />
              <Route
                path="networks/matrix"
                element={
                  <Room>
                    <MatrixPage />
                  </Room>
                }
              />
              <Route
                path="networks/plan"
                element={
                  <Room>
                    <PlanPage />
                  </Room>
                }
              />
              <Route
                path="networks/switches"
                element={
                  <Room>
                    <SwitchesPage />
                  </Room>
                }
              />
              <Route
                path="networks/devices"
                element={
                  <Room>
                    <DevicesPage />
                  </Room>
                }
              />
              <Route
                path="networks/names"
                element={
                  <Room>
                    <NamesPage />
                  </Room>
                }
              />
              <Route
                path="networks/list"
                element={
                  <Room>
                    <ListPage />
                  </Room>
                }
              />
              <Route
                path="networks/:id?"
                element={
                  <Room>
                    <Networks />
                  </Room>
                }
              />
              <Route path="guests/new" element={<NewGuest />} />
              <Route
                path="guests/size"
                element={
                  <GuestRoom>
                    <SizePage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/start-order"
                element={
                  <GuestRoom>
                    <StartOrderPage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/media"
                element={
                  <GuestRoom>
                    <MediaPage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/pools"
                element={
                  <GuestRoom>
                    <Suspense fallback={null}>
                      <PoolsPage />
                    </Suspense>
                  </GuestRoom>
                }
              />
              <Route
                path="guests/roles"
                element={
                  <GuestRoom>
                    <RolesPage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/samples"
                element={
                  <GuestRoom>
                    <SamplesPage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/table"
                element={
                  <GuestRoom>
                    <GuestTablePage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/:id/build"
                element={
                  <GuestRoom>
                    <GuestBuildPage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/:id/use"
                element={
                  <GuestRoom>
                    <Suspense fallback={null}>
                      <UsePage />
                    </Suspense>
                  </GuestRoom>
                }
              />
              <Route
                path="guests/:id/end"
                element={
                  <GuestRoom>
                    <EndPage />
                  </GuestRoom>
                }
              />
              <Route
                path="guests/:id?"
                element={
                  <GuestRoom>
                    <Guests />
                  </GuestRoom>
                }
              />
              <Route path="clones/new" element={<MakeClonesPage />} />
              <Route path="clones" element={<Clones />} />
              <Route path="migrations/new" element={<NewMigration />} />
              <Route path="migrations/:id?" element={<Migrations />} />
              <Route path="log" element={<Log />} />
              <Route path="findings" element={<FindingsPage />} />
              <Route path="people" element={<People />} />
              <Route path="this-machine" element={<ThisMachinePage />} />
              <Route path="*" element={<Navigate to="/hosts" replace />} />
            </Route>
          </Routes>
        </Session>
      </BrowserRouter>
      <Toaster position="bottom-right" offset={60} toastOptions={{ className: 'insel-toast' }} />
    </QueryClientProvider>
  </StrictMode>,
);
