/** Every page with its path; each is read when it is opened first. */
import { lazy, type ComponentType, type ReactNode } from 'react';
import { Navigate, Route } from 'react-router';

/** A page of its own file: only what is opened is read. */
const page = <M extends Record<N, ComponentType>, N extends string & keyof M>(
  file: () => Promise<M>,
  name: N,
): ReactNode => {
  const Page = lazy(async () => ({ default: (await file())[name] as ComponentType }));
  return <Page />;
};

/** Pages by area: those of an area with views of its own stand below their tab strip. */
export const PAGES = (
  <>
    <Route path="chart" element={page(() => import('./areas/chart/chart.js'), 'Chart')} />

    <Route path="hosts">
      <Route path="new" element={page(() => import('./areas/hosts/new-host.js'), 'NewHost')} />
      <Route
        path="facts"
        element={page(() => import('./areas/hosts/facts-page.js'), 'FactsPage')}
      />
      <Route
        path="table"
        element={page(() => import('./areas/hosts/table-page.js'), 'TablePage')}
      />
      <Route
        path="arrays"
        element={page(() => import('./areas/hosts/arrays-page.js'), 'ArraysPage')}
      />
      <Route path="places" element={page(() => import('./areas/places/places.js'), 'PlacesPage')} />
      <Route
        path=":id/hardware"
        element={page(() => import('./areas/hosts/hardware-page.js'), 'HardwarePage')}
      />
      <Route
        path=":id/alike"
        element={page(() => import('./areas/hosts/alike-page.js'), 'AlikePage')}
      />
      <Route
        path=":id/build-sheet"
        element={page(() => import('./areas/hosts/build-sheet-page.js'), 'BuildSheetPage')}
      />
      <Route path=":id?" element={page(() => import('./areas/hosts/hosts.js'), 'Hosts')} />
    </Route>

    <Route
      path="networks/new"
      element={page(() => import('./areas/networks/new-network.js'), 'NewNetwork')}
    />
    <Route
      path="networks"
      element={page(() => import('./areas/networks/network-views.js'), 'NetworkViews')}
    >
      <Route
        path="patch"
        element={page(() => import('./areas/networks/patch-page.js'), 'PatchPage')}
      />
      <Route
        path="reach"
        element={page(() => import('./areas/networks/reach-page.js'), 'ReachPage')}
      />
      <Route
        path="matrix"
        element={page(() => import('./areas/networks/matrix-page.js'), 'MatrixPage')}
      />
      <Route
        path="plan"
        element={page(() => import('./areas/networks/plan-page.js'), 'PlanPage')}
      />
      <Route
        path="switches"
        element={page(() => import('./areas/networks/switches-page.js'), 'SwitchesPage')}
      />
      <Route
        path="devices"
        element={page(() => import('./areas/networks/devices-page.js'), 'DevicesPage')}
      />
      <Route
        path="names"
        element={page(() => import('./areas/networks/names-page.js'), 'NamesPage')}
      />
      <Route
        path="list"
        element={page(() => import('./areas/networks/list-page.js'), 'ListPage')}
      />
      <Route path=":id?" element={page(() => import('./areas/networks/networks.js'), 'Networks')} />
    </Route>

    <Route
      path="guests/new"
      element={page(() => import('./areas/guests/new-guest.js'), 'NewGuest')}
    />
    <Route
      path="guests"
      element={page(() => import('./areas/guests/guest-views.js'), 'GuestViews')}
    >
      <Route path="size" element={page(() => import('./areas/guests/size-page.js'), 'SizePage')} />
      <Route
        path="shut-down"
        element={page(() => import('./areas/guests/shut-down.js'), 'ShutDownPage')}
      />
      <Route
        path="start-order"
        element={page(() => import('./areas/guests/start-order.js'), 'StartOrderPage')}
      />
      <Route
        path="media"
        element={page(() => import('./areas/guests/media-page.js'), 'MediaPage')}
      />
      <Route
        path="pools"
        element={page(() => import('./areas/guests/pools-page.js'), 'PoolsPage')}
      />
      <Route
        path="roles"
        element={page(() => import('./areas/guests/roles-page.js'), 'RolesPage')}
      />
      <Route
        path="samples"
        element={page(() => import('./areas/guests/samples-page.js'), 'SamplesPage')}
      />
      <Route
        path="table"
        element={page(() => import('./areas/guests/table-page.js'), 'GuestTablePage')}
      />
      <Route
        path=":id/build"
        element={page(() => import('./areas/guests/build-page.js'), 'GuestBuildPage')}
      />
      <Route path=":id/use" element={page(() => import('./areas/guests/use-page.js'), 'UsePage')} />
      <Route path=":id/end" element={page(() => import('./areas/guests/end-page.js'), 'EndPage')} />
      <Route path=":id?" element={page(() => import('./areas/guests/guests.js'), 'Guests')} />
    </Route>

    <Route path="plans">
      <Route
        path="growth"
        element={page(() => import('./areas/plans/growth-page.js'), 'GrowthPage')}
      />
      <Route
        path="moves"
        element={page(() => import('./areas/plans/moves-page.js'), 'MovesPage')}
      />
      <Route
        path="place"
        element={page(() => import('./areas/plans/place-page.js'), 'PlacePage')}
      />
      <Route path=":id?" element={page(() => import('./areas/plans/plans.js'), 'Plans')} />
    </Route>

    <Route
      path="clones/new"
      element={page(() => import('./areas/clones/make-clones.js'), 'MakeClonesPage')}
    />
    <Route
      path="clones"
      element={page(() => import('./areas/clones/clone-views.js'), 'CloneViews')}
    >
      <Route
        path="templates"
        element={page(() => import('./areas/clones/templates-page.js'), 'TemplatesPage')}
      />
      <Route
        path="lineage"
        element={page(() => import('./areas/clones/lineage-page.js'), 'LineagePage')}
      />
      <Route
        path="licences"
        element={page(() => import('./areas/clones/licences-page.js'), 'LicencesPage')}
      />
      <Route
        path="batch"
        element={page(() => import('./areas/clones/batch-page.js'), 'BatchPage')}
      />
      <Route index element={page(() => import('./areas/clones/clones.js'), 'Clones')} />
    </Route>
    <Route
      path="migrations/new-physical"
      element={page(() => import('./areas/migrations/new-physical.js'), 'NewPhysical')}
    />
    <Route
      path="migrations/new"
      element={page(() => import('./areas/migrations/new-migration.js'), 'NewMigration')}
    />
    <Route
      path="migrations"
      element={page(() => import('./areas/migrations/migration-views.js'), 'MigrationViews')}
    >
      <Route
        path="timetable"
        element={page(() => import('./areas/migrations/timetable-page.js'), 'TimetablePage')}
      />
      <Route
        path="computers"
        element={page(() => import('./areas/migrations/computers-page.js'), 'ComputersPage')}
      />
      <Route
        path="platform"
        element={page(() => import('./areas/migrations/platform-page.js'), 'PlatformPage')}
      />
      <Route
        path="actual"
        element={page(() => import('./areas/migrations/actual-page.js'), 'ActualPage')}
      />
      <Route
        path=":id?"
        element={page(() => import('./areas/migrations/migrations.js'), 'Migrations')}
      />
    </Route>
    <Route path="log" element={page(() => import('./areas/log/log.js'), 'Log')} />
    <Route
      path="findings"
      element={page(() => import('./areas/findings/findings.js'), 'FindingsPage')}
    />
    <Route
      path="account"
      element={page(() => import('./areas/account/own-account.js'), 'OwnAccount')}
    />
    <Route
      path="leave-demo"
      element={page(() => import('./areas/account/leave-demo.js'), 'LeaveDemoPage')}
    />
    <Route path="people" element={page(() => import('./areas/account/people.js'), 'People')} />
    <Route
      path="server"
      element={page(() => import('./areas/account/server-page.js'), 'ServerPage')}
    />
    <Route
      path="this-machine"
      element={page(() => import('./areas/account/this-machine.js'), 'ThisMachinePage')}
    />
    <Route index element={<Navigate to="/hosts" replace />} />
    {/* Where somebody comes from who has just set an account up. */}
    <Route path="set-up" element={<Navigate to="/hosts" replace />} />
    <Route path="*" element={page(() => import('./frame/no-such-page.js'), 'NoSuchPage')} />
  </>
);
