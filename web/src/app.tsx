import type { Person } from '@auk/contract';
import { type ComponentType, lazy } from 'react';
import { createBrowserRouter, matchRoutes, Navigate, type RouteObject } from 'react-router';
import { BrokenPage } from './parts/Broken.js';
import { useMe } from './people/useMe.js';
import { Dark } from './shell/Dark.js';
import { Desk } from './shell/Desk.js';
import { House } from './shell/House.js';
import { Open } from './shell/Open.js';

/** Where each role's day begins. */
const HOME: Record<Person['role'], string> = {
  lead: '/board',
  admin: '/board',
  office: '/orders',
  picker: '/floor',
  packer: '/bench',
};

const Home = () => <Navigate to={HOME[useMe().role]} replace />;

type Loaded = { default: ComponentType };

/** The code of a page: as far as it is here, and how it comes. */
interface Code {
  here: ComponentType | null;
  Coming: ComponentType;
  come: () => Promise<Loaded>;
}

/** Code that is here already is shown at once, without a moment of nothing. */
function Page({ code }: { code: Code }) {
  const Shown = code.here ?? code.Coming;
  return <Shown />;
}

/** A page whose code is loaded when somebody goes there. The address changes at once: what is typed or heard meanwhile knows. */
function page(path: string, load: () => Promise<Loaded>): RouteObject {
  const come = async () => {
    const loaded = await load();
    code.here = loaded.default;
    return loaded;
  };
  const code: Code = { here: null, Coming: lazy(come), come };
  return { path, element: <Page code={code} />, handle: come };
}

/** The work by scanner, dark and over the whole screen. */
const DARK: RouteObject[] = [
  page('/floor', () => import('./picking/pages/FloorPage.js')),
  page('/floor/:code', () => import('./picking/pages/FloorPage.js')),
  page('/bench', () => import('./packing/pages/BenchPage.js')),
  page('/wall', () => import('./sorting/pages/WallPage.js')),
  page('/prepare', () => import('./inbound/pages/PreparePage.js')),
  page('/receiving/:no', () => import('./receiving/pages/DockPage.js')),
];

/** The work at a desk, in the frame with the scan field. */
const DESK: RouteObject[] = [
  page('/board', () => import('./departures/pages/BoardPage.js')),
  page('/departures/:no', () => import('./departures/pages/HandoverPage.js')),
  page('/departed', () => import('./orders/pages/DepartedPage.js')),
  page('/orders', () => import('./orders/pages/OrdersPage.js')),
  page('/orders/:id', () => import('./orders/pages/OrderPage.js')),
  page('/bring-in', () => import('./imports/pages/ImportPage.js')),
  page('/pick', () => import('./picking/pages/PickPage.js')),
  page('/pick/plan', () => import('./planning/pages/PlanPage.js')),
  page('/pick/plan/:id', () => import('./planning/pages/PlanPage.js')),
  page('/pick/troubles', () => import('./picking/pages/TroublesPage.js')),
  page('/pick/:no', () => import('./picking/pages/ListPage.js')),
  page('/parcels/returns', () => import('./returns/pages/ReturnsPage.js')),
  page('/parcels/bills', () => import('./costs/pages/BillsPage.js')),
  page('/parcels/costs', () => import('./costs/pages/CostsPage.js')),
  page('/parcels/claims', () => import('./parcels/pages/ClaimsPage.js')),
  page('/parcels/batch/:id', () => import('./parcels/pages/BatchPage.js')),
  page('/parcels/compare', () => import('./rating/pages/ComparePage.js')),
  page('/parcels', () => import('./parcels/pages/ParcelsPage.js')),
  page('/products', () => import('./catalog/pages/ProductsPage.js')),
  page('/products/listings', () => import('./catalog/pages/ListingsPage.js')),
  page('/products/measured', () => import('./catalog/pages/MeasuredPage.js')),
  page('/products/:sku', () => import('./catalog/pages/ProductPage.js')),
  page('/products/:sku/ledger', () => import('./stock/pages/LedgerPage.js')),
  page('/kits', () => import('./kits/pages/KitsPage.js')),
  page('/kits/:sku', () => import('./kits/pages/KitPage.js')),
  page('/builds', () => import('./kits/pages/BuildsPage.js')),
  page('/builds/:no', () => import('./kits/pages/BuildPage.js')),
  page('/stock', () => import('./stock/pages/StockPage.js')),
  page('/stock/counts', () => import('./stock/pages/CountsPage.js')),
  page('/stock/counts/:place', () => import('./stock/pages/CountPage.js')),
  page('/stock/places', () => import('./places/pages/PlacesPage.js')),
  page('/stock/totes', () => import('./places/pages/TotesPage.js')),
  page('/stock/walls', () => import('./places/pages/WallsPage.js')),
  page('/stock/floor', () => import('./places/pages/MapPage.js')),
  page('/places/:code', () => import('./places/pages/PlacePage.js')),
  page('/receiving', () => import('./receiving/pages/ReceivingPage.js')),
  page('/inbound', () => import('./inbound/pages/InboundListPage.js')),
  page('/inbound/:no', () => import('./inbound/pages/InboundPage.js')),
  page('/rules', () => import('./rules/pages/RulesPage.js')),
  page('/setup/channels', () => import('./channels/pages/ChannelsPage.js')),
  page('/setup/carriers', () => import('./carriers/pages/CarriersPage.js')),
  page('/setup/mails', () => import('./mails/pages/MailsPage.js')),
  page('/setup/papers', () => import('./printing/pages/PapersPage.js')),
  page('/setup/people', () => import('./people/pages/PeoplePage.js')),
  page('/setup/floor', () => import('./picking/pages/FloorChoicesPage.js')),
  page('/setup/benches', () => import('./benches/pages/BenchesPage.js')),
  page('/setup/tray', () => import('./benches/pages/TrayPage.js')),
  page('/setup/boxes', () => import('./packing/pages/BoxesPage.js')),
  page('/setup/upkeep', () => import('./setup/pages/UpkeepPage.js')),
  { path: '/setup', element: <Navigate to="/setup/channels" replace /> },
];

/** What buyers see; nobody signs in there. */
const OPEN: RouteObject[] = [page('/b/:token', () => import('./buyers/pages/BuyerPage.js'))];

/** Every page of the house. What goes wrong in one is said inside its frame. */
export const router = createBrowserRouter([
  { errorElement: <BrokenPage />, element: <Open />, children: OPEN },
  {
    element: <House />,
    errorElement: <BrokenPage />,
    children: [
      { element: <Dark />, children: [{ errorElement: <BrokenPage />, children: DARK }] },
      { element: <Desk />, children: [{ errorElement: <BrokenPage />, children: DESK }] },
      { path: '*', element: <Home /> },
    ],
  },
]);

// The code of the page that is asked for comes while it is still being asked who is there.
const come = matchRoutes([...OPEN, ...DARK, ...DESK], window.location.pathname)?.at(-1)?.route.handle as
  | Code['come']
  | undefined;
come?.().catch(() => undefined);
