import type { Role } from './people.js';

/** What may be done, in words that stand on the screen, and who may do it while the admin has not changed it. */
export const RIGHTS = {
  'orders.change': { words: 'Change, park, split and cancel orders', roles: ['lead', 'office'] },
  'orders.export': { words: 'Export orders and parcels with their buyers', roles: ['lead', 'office'] },
  'invoices.print': { words: 'Print invoices', roles: ['lead', 'office', 'packer'] },
  'files.bring': { words: 'Bring in files', roles: ['lead', 'office'] },
  'products.change': { words: 'Change products and link listings', roles: ['lead', 'office'] },
  'products.remove': { words: 'Delete retired products', roles: ['lead'] },
  'codes.give': { words: 'Give a product a code', roles: ['lead', 'office', 'packer'] },
  'recipes.change': { words: 'Change recipes and move orders to them', roles: ['lead', 'office'] },
  'kits.policy': { words: 'Let kits be eked out with parts', roles: ['lead'] },
  'builds.plan': { words: 'Plan and stop builds', roles: ['lead', 'office'] },
  'builds.work': { words: 'Build kits and take them apart', roles: ['lead', 'packer'] },
  'lists.release': { words: 'Release pick lists', roles: ['lead'] },
  pick: { words: 'Pick', roles: ['lead', 'picker', 'packer'] },
  'pick.by-hand': {
    words: 'Type or press codes at the shelves, where labels are missing',
    roles: ['lead', 'picker', 'packer'],
  },
  'floor.choose': { words: 'Choose what pickers see and what follows', roles: ['lead'] },
  sort: { words: 'Sort heaps at a put wall', roles: ['lead', 'picker', 'packer'] },
  pack: { words: 'Pack and buy labels', roles: ['lead', 'packer'] },
  'pack.by-hand': { words: 'Press pieces at the bench instead of scanning them', roles: ['lead', 'packer'] },
  'pack.all': { words: 'Count all the rest of a line at once at the bench', roles: ['lead', 'packer'] },
  'parcels.open': { words: 'Take closed parcels open again', roles: ['lead', 'packer'] },
  'benches.change': { words: 'Set up benches and printers', roles: ['lead'] },
  'boxes.change': { words: 'Keep the kinds of boxes', roles: ['lead'] },
  'labels.void': { words: 'Void bought labels', roles: ['lead', 'packer'] },
  'labels.batch': { words: 'Buy labels of many parcels at once', roles: ['lead'] },
  'labels.choose': { words: 'Choose services and boxes of orders', roles: ['lead', 'office'] },
  'labels.decide': { words: 'Decide on purchases that nobody can prove', roles: ['lead'] },
  'labels.claims': { words: 'Close claims against carriers', roles: ['lead', 'office'] },
  'carriers.change': { words: 'Keep carriers, accounts, rate sheets and collections', roles: ['lead'] },
  'rules.change': { words: 'Change the rule book', roles: ['lead'] },
  'rules.spend': { words: 'Raise caps and lift the pause of unattended buying', roles: ['lead'] },
  'rules.press': {
    words: 'Press the buttons of the rule book',
    roles: ['lead', 'office', 'picker', 'packer'],
  },
  'rules.run': { words: 'Run rules again on orders', roles: ['lead', 'office'] },
  'mails.change': { words: 'Keep mails, brands and alerts', roles: ['lead'] },
  'buyers.write': { words: 'Write to buyers', roles: ['lead', 'office'] },
  'costs.see': { words: 'See what shipping costs, and audit bills', roles: ['lead', 'office'] },
  'returns.take': { words: 'Take back parcels', roles: ['lead', 'packer', 'office'] },
  'returns.judge': { words: 'Judge what came back', roles: ['lead', 'office'] },
  'labels.print': { words: 'Print labels again', roles: ['lead', 'packer', 'office'] },
  handover: { words: 'Hand parcels over and close departures', roles: ['lead', 'packer'] },
  'departures.cancel': { words: 'Cancel collections and move cut-offs', roles: ['lead'] },
  receive: { words: 'Receive goods', roles: ['lead', 'picker', 'packer'] },
  'inbound.change': { words: 'Prepare shipments to fulfillment centers', roles: ['lead', 'office'] },
  'inbound.book': { words: 'Book shipments to fulfillment centers', roles: ['lead'] },
  'inbound.prepare': { words: 'Prepare units for fulfillment centers', roles: ['lead', 'office', 'packer'] },
  'purchases.change': { words: 'Order from suppliers', roles: ['lead', 'office'] },
  'stock.move': { words: 'Move goods', roles: ['lead', 'office', 'picker', 'packer'] },
  'stock.count': { words: 'Count places', roles: ['lead', 'office', 'picker'] },
  'stock.write-off': { words: 'Write goods off', roles: ['lead', 'office'] },
  'stock.serve': { words: 'Set how orders are served, and serve anew', roles: ['lead'] },
  'places.change': { words: 'Make and change places', roles: ['lead'] },
  'channels.pull': { words: 'Ask channels now, and try again what failed', roles: ['lead', 'office'] },
  'channels.connect': { words: 'Connect channels', roles: ['lead'] },
  'papers.change': { words: 'Change slips and invoices', roles: ['lead'] },
  'house.keep': { words: 'Set how long what is done is kept', roles: ['lead'] },
  'people.change': { words: 'Add people, reset PINs, change rights', roles: [] },
} as const satisfies Record<string, { words: string; roles: readonly Role[] }>;

export type Right = keyof typeof RIGHTS;
export const RIGHT_NAMES = Object.keys(RIGHTS) as [Right, ...Right[]];

/** What the admin made of the table: for each right that was changed, the roles that have it. */
export type ChangedRights = Partial<Record<Right, Role[]>>;

/** Whether a role has a right. The admin has all of them, always, so that nobody can be locked out. */
export function hasRight(role: Role, right: Right, changed: ChangedRights = {}): boolean {
  return role === 'admin' || (changed[right] ?? (RIGHTS[right].roles as readonly Role[])).includes(role);
}

/** All rights of a role. */
export const rightsOf = (role: Role, changed: ChangedRights = {}): Right[] =>
  RIGHT_NAMES.filter(r => hasRight(role, r, changed));
