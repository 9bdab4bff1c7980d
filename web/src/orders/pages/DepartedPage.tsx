import OrdersPage from './OrdersPage.js';

/** The order list, asked for what has left. */
export default function DepartedPage() {
  return <OrdersPage departed />;
}
