import { HouseState, Person } from '@auk/contract';
import { ThemeProvider } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { get, Refused } from './api.js';
import { useLive } from './live.js';
import { setHouseZone } from './parts/format.js';
import { SignInPage } from './people/SignInPage.js';
import { OpeningPage } from './setup/OpeningPage.js';
import { Shell } from './shell/Shell.js';
import { deskTheme } from './theme.js';

const BoardPage = lazy(() => import('./departures/BoardPage.js'));
const HandoverPage = lazy(() => import('./departures/HandoverPage.js'));
const OrdersPage = lazy(() => import('./orders/OrdersPage.js'));
const OrderPage = lazy(() => import('./orders/OrderPage.js'));
const ImportPage = lazy(() => import('./imports/ImportPage.js'));
const PickPage = lazy(() => import('./picking/PickPage.js'));
const ListPage = lazy(() => import('./picking/ListPage.js'));
const FloorPage = lazy(() => import('./picking/FloorPage.js'));
const BenchPage = lazy(() => import('./packing/BenchPage.js'));
const ParcelsPage = lazy(() => import('./parcels/ParcelsPage.js'));
const ProductsPage = lazy(() => import('./catalog/ProductsPage.js'));
const ProductPage = lazy(() => import('./catalog/ProductPage.js'));
const ListingsPage = lazy(() => import('./catalog/ListingsPage.js'));
const ChannelsPage = lazy(() => import('./channels/ChannelsPage.js'));
const PeoplePage = lazy(() => import('./people/PeoplePage.js'));
const PapersPage = lazy(() => import('./printing/PapersPage.js'));
const KitsPage = lazy(() => import('./kits/KitsPage.js'));
const KitPage = lazy(() => import('./kits/KitPage.js'));
const BuildsPage = lazy(() => import('./kits/BuildsPage.js'));
const BuildPage = lazy(() => import('./kits/BuildPage.js'));
const StockPage = lazy(() => import('./stock/StockPage.js'));
const CountsPage = lazy(() => import('./stock/CountsPage.js'));
const CountPage = lazy(() => import('./stock/CountPage.js'));
const PlacesPage = lazy(() => import('./stock/PlacesPage.js'));
const LedgerPage = lazy(() => import('./stock/LedgerPage.js'));
const ReceivingPage = lazy(() => import('./receiving/ReceivingPage.js'));
const DockPage = lazy(() => import('./receiving/DockPage.js'));
const PlacePage = lazy(() => import('./catalog/PlacePage.js'));

/** Where each role's day begins. */
const HOME: Record<Person['role'], string> = {
  lead: '/board',
  admin: '/board',
  office: '/orders',
  picker: '/floor',
  packer: '/bench',
};

/** Who is signed in, and the pages. */
export function App() {
  const me = useQuery({
    queryKey: ['me'],
    queryFn: () => get(Person, 'people/me'),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: undefined,
  });
  const house = useQuery({
    queryKey: ['house'],
    queryFn: async () => {
      const state = await get(HouseState, 'house');
      setHouseZone(state.zone);
      return state;
    },
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: undefined,
  });
  useLive(me.isSuccess);
  return (
    <ThemeProvider theme={deskTheme}>
      {me.isPending || house.isPending ? null : house.data?.open === false ? (
        <OpeningPage />
      ) : me.error instanceof Refused || !me.data ? (
        <SignInPage />
      ) : (
        <Pages me={me.data} />
      )}
    </ThemeProvider>
  );
}

function Pages({ me }: { me: Person }) {
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/floor" element={<FloorPage me={me} />} />
        <Route path="/floor/:code" element={<FloorPage me={me} />} />
        <Route path="/bench" element={<BenchPage me={me} />} />
        <Route path="/receiving/:no" element={<DockPage me={me} />} />
        <Route element={<Shell me={me} />}>
          <Route path="/board" element={<BoardPage />} />
          <Route path="/departures/:no" element={<HandoverPage me={me} />} />
          <Route path="/departed" element={<OrdersPage key="departed" me={me} departed />} />
          <Route path="/orders" element={<OrdersPage key="orders" me={me} />} />
          <Route path="/bring-in" element={<ImportPage />} />
          <Route path="/orders/:id" element={<OrderPage me={me} />} />
          <Route path="/pick" element={<PickPage />} />
          <Route path="/pick/:no" element={<ListPage />} />
          <Route path="/parcels" element={<ParcelsPage />} />
          <Route path="/products" element={<ProductsPage me={me} />} />
          <Route path="/products/listings" element={<ListingsPage me={me} />} />
          <Route path="/products/:sku" element={<ProductPage me={me} />} />
          <Route path="/products/:sku/ledger" element={<LedgerPage />} />
          <Route path="/kits" element={<KitsPage me={me} />} />
          <Route path="/kits/:sku" element={<KitPage me={me} />} />
          <Route path="/builds" element={<BuildsPage me={me} />} />
          <Route path="/builds/:no" element={<BuildPage me={me} />} />
          <Route path="/stock" element={<StockPage me={me} />} />
          <Route path="/stock/counts" element={<CountsPage />} />
          <Route path="/stock/counts/:place" element={<CountPage />} />
          <Route path="/stock/places" element={<PlacesPage me={me} />} />
          <Route path="/receiving" element={<ReceivingPage me={me} />} />
          <Route path="/setup" element={<Navigate to="/setup/channels" replace />} />
          <Route path="/setup/channels" element={<ChannelsPage me={me} />} />
          <Route path="/setup/people" element={<PeoplePage />} />
          <Route path="/setup/papers" element={<PapersPage me={me} />} />
          <Route path="/places/:code" element={<PlacePage />} />
        </Route>
        <Route path="*" element={<Navigate to={HOME[me.role]} replace />} />
      </Routes>
    </Suspense>
  );
}
