import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import ts from 'typescript';

/** Errors by the place of the cure among their arguments. */
const ERRORS: Record<string, number> = {
  Trouble: 2,
  Malformed: 1,
  NotSignedIn: 1,
  NotAllowed: 1,
  NotHere: 1,
  TooLate: 1,
  Forbidden: 1,
  TooOften: 1,
  Busy: 1,
};

/** Every cure that stands in the code of the server and the core, with `…` for what is filled in; by its text, the files it is in. */
export function curesInCode(): Map<string, string[]> {
  const found = new Map<string, string[]>();
  const files = execFileSync('git', [
    'ls-files',
    '--cached',
    '--others',
    '--exclude-standard',
    'server/src',
    'core/src',
  ])
    .toString()
    .split('\n')
    .filter(f => f.endsWith('.ts') && !f.endsWith('.test.ts'));
  for (const file of files) {
    const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
    for (const cure of curesOf(source)) found.set(cure, [...new Set([...(found.get(cure) ?? []), file])]);
  }
  return found;
}

function curesOf(source: ts.SourceFile): string[] {
  const cures: string[] = [];
  const helpers = helpersOf(source);
  const visit = (node: ts.Node): void => {
    if (ts.isNewExpression(node)) {
      const at = ERRORS[node.expression.getText()];
      if (at !== undefined) cures.push(...textsOf(node.arguments?.[at]));
    } else if (ts.isCallExpression(node)) {
      const at = helpers.get(node.expression.getText());
      if (at !== undefined) cures.push(...textsOf(node.arguments[at]));
    } else if (ts.isPropertyAssignment(node) && node.name.getText() === 'cure')
      cures.push(...textsOf(node.initializer));
    else if (ts.isParameter(node) && node.name.getText() === 'cure') cures.push(...textsOf(node.initializer));
    else if (ts.isFunctionDeclaration(node) && /^cure/.test(node.name?.text ?? ''))
      cures.push(...returnsOf(node));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return cures.filter(c => c !== '');
}

/** Functions of a file that are handed a cure, by the place of that parameter. */
function helpersOf(source: ts.SourceFile): Map<string, number> {
  const helpers = new Map<string, number>();
  const visit = (node: ts.Node): void => {
    const made =
      ts.isVariableDeclaration(node) && node.initializer && ts.isArrowFunction(node.initializer)
        ? node.initializer
        : ts.isFunctionDeclaration(node)
          ? node
          : null;
    const at = made?.parameters.findIndex(p => p.name.getText() === 'cure') ?? -1;
    const name =
      ts.isVariableDeclaration(node) || ts.isFunctionDeclaration(node) ? node.name?.getText() : undefined;
    if (name && at >= 0) helpers.set(name, at);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return helpers;
}

function returnsOf(node: ts.Node): string[] {
  if (ts.isReturnStatement(node)) return textsOf(node.expression);
  const texts: string[] = [];
  ts.forEachChild(node, child => {
    texts.push(...returnsOf(child));
  });
  return texts;
}

function textsOf(node: ts.Expression | undefined): string[] {
  if (!node) return [];
  if (ts.isStringLiteralLike(node)) return [node.text];
  if (ts.isTemplateExpression(node))
    return [node.head.text + node.templateSpans.map(s => `…${s.literal.text}`).join('')];
  if (ts.isConditionalExpression(node)) return [...textsOf(node.whenTrue), ...textsOf(node.whenFalse)];
  if (ts.isParenthesizedExpression(node)) return textsOf(node.expression);
  return [];
}

/** Where a cure is found: words on a screen, by the file that shows them. */
export type Where = readonly [file: string, words: string];

/**
 * Cures that lead to another act than the one refused. Every cure of the code that is not here is in AT_ONCE: it only says how to do
 * the same act rightly, on the same screen.
 */
export const ELSEWHERE: Record<string, Where> = {
  'Call its booking off first, under Inbound.': ['inbound/parts/PartPanel', 'Call the booking off'],
  'Put it otherwise at the bench: scan YES when it asks.': [
    'packing/pages/BenchPage',
    'Scan a slip or a tote',
  ],
  'Check its number under Receiving or Kits.': ['receiving/pages/ReceivingPage', 'Receiving'],
  'Look under Prepared who does what.': ['inbound/parts/Prepared', 'Who does it'],
  'Book it under Inbound first.': ['inbound/parts/PartPanel', 'Ask for the price'],
  'Open it again at the bench and weigh it.': ['packing/pages/BenchPage', 'Scan a slip or a tote'],
  'Reserve it and have it packed first.': ['inbound/pages/InboundPage', 'Reserve it'],
  'Have the rest packed at the bench first.': ['packing/pages/BenchPage', 'Scan a slip or a tote'],
  'Have it packed at the bench first.': ['packing/pages/BenchPage', 'Scan a slip or a tote'],
  'Give it on the list of shipments, under Company prefix.': [
    'inbound/pages/InboundListPage',
    'Company prefix',
  ],
  'Give another company prefix.': ['inbound/pages/InboundListPage', 'Company prefix'],
  'Give it up, or wait and ask again.': ['inbound/parts/PartPanel', 'Give it up'],
  'Look at the list of walls.': ['places/pages/WallsPage', 'Put walls'],
  'Split the order, or compare its parcels one by one when they are packed.': [
    'orders/parts/OrderActs',
    'Split',
  ],
  'Enter the address that the carrier, channel or network gave you.': ['carriers/parts/Connect', 'address'],
  'Ask for the price first.': ['inbound/parts/PartPanel', 'Ask for the price'],
  'Ask for the price again, or give it up.': ['inbound/parts/PartPanel', 'Ask for the price'],
  'Ask for the price again.': ['inbound/parts/PartPanel', 'Ask for the price'],
  'Book it first.': ['inbound/parts/PartPanel', 'Ask for the price'],
  'Buy the labels of its boxes under Parcels and hand them over at its departure.': [
    'inbound/parts/PartPanel',
    'it leaves with its departure',
  ],
  'Call its booking off first.': ['inbound/parts/PartPanel', 'Call the booking off'],
  'Call its booking off first, or ask the network to leave it.': [
    'inbound/parts/PartPanel',
    'Call the booking off',
  ],
  'Take its plan on the page of the shipment; there stands what must be repacked.': [
    'inbound/parts/PlanChanged',
    'Take the new plan',
  ],
  'Choose the way again; its boxes are planned anew.': ['inbound/parts/Ways', 'Choose'],
  'Open its boxes at the bench again first, if something is not ready.': [
    'packing/pages/BenchPage',
    'Scan a slip or a tote',
  ],
  'Print the labels of its boxes.': ['inbound/parts/PartPanel', 'Box labels'],
  'Reserve it and have it picked first.': ['inbound/pages/InboundPage', 'Reserve it'],
  'Pack it at a bench as it is.': ['packing/pages/BenchPage', 'Scan a slip or a tote'],
  'Scan the number of the shipment again.': ['inbound/pages/PreparePage', 'Scan the number of a shipment'],
  'Scan the number of the shipment again; what is counted stays.': [
    'inbound/pages/PreparePage',
    'Scan the number of a shipment',
  ],
  'Take something out of it at the bench, or put it into another box.': [
    'packing/pages/BenchPage',
    'Scan a slip or a tote',
  ],
  'Write it off where it lies, under Stock.': ['stock/parts/stockColumns', 'Write off'],
  'Begin another shipment.': ['inbound/pages/InboundListPage', 'New shipment'],
  'Begin another one for the rest.': ['inbound/pages/InboundListPage', 'New shipment'],
  'Connect it first under Receiving.': ['elsewhere/parts/Centers', 'Connect a center'],
  'Try again in a minute, or look at its address under Receiving.': [
    'elsewhere/parts/Centers',
    'Connect a center',
  ],
  'Have them packed, and ask for the price of booking them.': [
    'inbound/parts/PartPanel',
    'Ask for the price',
  ],
  'Choose a way first; then it is reserved.': ['inbound/parts/Ways', 'Choose'],
  'Change the shipment, or choose another way.': ['inbound/parts/Ways', 'Choose'],
  'Look at the ways again and choose another.': ['inbound/parts/Ways', 'Choose'],
  'It is counted there; what is missing then is claimed.': [
    'inbound/parts/Differences',
    'claimed from the network',
  ],
  'Cancel it, which gives tasks to put its goods back, and begin another.': [
    'inbound/pages/InboundPage',
    'Cancel the shipment',
  ],
  'Take it out of the shipment.': ['inbound/parts/What', '0 takes it out'],
  'Give it on the page of the product, then choose the way again.': [
    'inbound/parts/Prepared',
    'give it on its page',
  ],
  'Scan one of it to see which is right, or ask them to change it.': [
    'inbound/parts/Codes',
    'scan one of the goods',
  ],
  'Add a box for it under Setup > Boxes, or take it out of the shipment.': [
    'packing/pages/BoxesPage',
    'Empty weight',
  ],
  'Open the shipment under Inbound; it is changed or cancelled there.': [
    'inbound/pages/InboundPage',
    'Cancel the shipment',
  ],
  'Its label comes with the booking, under Inbound.': ['inbound/parts/PartPanel', 'Box labels'],
  'Open the shipment anew under Inbound.': ['inbound/pages/InboundListPage', 'Inbound'],
  'Look for it under Inbound.': ['inbound/pages/InboundListPage', 'Inbound'],
  'Give it one on its page, or send single units.': ['inbound/parts/What', 'single units'],
  'Send its parts, or build it as a kit first.': ['inbound/parts/What', 'Product'],
  'Try again, or look at its address under Receiving.': ['elsewhere/parts/Centers', 'Connect a center'],
  'Connect it again under Receiving.': ['elsewhere/parts/Centers', 'Connect a center'],
  'Send it from here again first, on its page; or tell them.': [
    'elsewhere/parts/ElsewherePanel',
    'Send it from here after all',
  ],
  'Send it from here again first, on its page.': [
    'elsewhere/parts/ElsewherePanel',
    'Send it from here after all',
  ],
  'Cancel that order, or send it from here, on its page.': [
    'elsewhere/parts/ElsewherePanel',
    'Send it from here after all',
  ],
  'Ask the lead to press “…”, or for that right.': ['people/parts/RightsGrid', 'right'],
  'See Rules for the buttons of now; print their codes there.': [
    'rules/pages/RulesPage',
    'Print button codes',
  ],
  'Set it under Rules > Caps, or buy the label by hand.': ['rules/parts/SpendingBar', 'Caps'],
  'Lift the pause, or buy the label by hand.': ['rules/parts/BuyingSwitch', 'Buying paused'],
  'Buy it by hand, or raise the cap.': ['rules/parts/SpendingBar', 'Caps'],
  'Buy it by hand, wait for tomorrow, or raise the cap.': ['rules/parts/SpendingBar', 'Caps'],
  'Give the address in Latin letters.': ['orders/parts/StopCure', 'LatinAddress'],
  'Look at it under Parcels > Returns.': ['parcels/parts/ParcelsNav', 'Returns'],
  'Buy one on the page of parcels.': ['parcels/parts/ReturnLabel', 'Buy a return label'],
  'Enter one under Setup > Carriers.': ['carriers/parts/Rates', 'From today'],
  'Add its ….': ['orders/parts/StopCure', 'customs code'],
  'Add it to … under Products.': ['catalog/parts/ProductFacts', 'PRODUCT_FACTS'],
  'Correct the address, then send it again under Setup > Mails.': ['mails/pages/MailsPage', 'Send again'],
  'Answer it, or mark it as seen.': ['buyers/parts/Thread', 'Needs no answer'],
  'Look at it in the list; a corrected bill has a number of its own.': [
    'costs/pages/BillsPage',
    'Number of the bill',
  ],
  'Open it again at the bench instead.': ['packing/parts/Keys', 'open'],
  'Receive a piece that is not of this order as a find, by a count of its place.': [
    'stock/pages/CountsPage',
    'Count',
  ],
  'Cancel this collection; what it would have taken waits for the next.': [
    'departures/parts/HandoverActs',
    'Cancel the collection',
  ],
  'Enter what it is worth under Setup > Carriers, then take the sheet in.': [
    'carriers/parts/Rates',
    'From today',
  ],
  'Connect it under Setup > Carriers.': ['carriers/pages/CarriersPage', 'Connect a carrier'],
  'Void it first, or look at the parcel again.': ['parcels/parts/InsideParcel', 'Void the label'],
  'Void its label under Parcels, then do it again.': ['parcels/parts/InsideParcel', 'Void the label'],
  'Void its label first; then another service can be chosen.': [
    'parcels/parts/InsideParcel',
    'Void the label',
  ],
  'Buy the label first.': ['parcels/parts/InsideParcel', 'Compare services'],
  'Link its listings to products first.': ['orders/parts/StopCure', 'LinkListing'],
  'Add a box that takes it under Setup > Boxes.': ['packing/pages/BoxesPage', 'A further box'],
  'It was kept as long as Setup > Upkeep says.': ['setup/pages/UpkeepPage', 'Photos of open boxes'],
  'Set one up under Stock > Put walls, or pick with totes.': ['places/pages/WallsPage', 'Set it up'],
  'Set one up under Stock > Put walls, or choose another.': ['places/pages/WallsPage', 'Set it up'],
  'Set one up under Stock > Put walls: how many rows and columns it has.': [
    'places/pages/WallsPage',
    'Set it up',
  ],
  'Scan the label, or ask the lead, who can give you that right.': ['people/parts/RightsGrid', 'right'],
  'Ask the lead to release one under Pick.': ['planning/parts/ReadyPlan', 'Release'],
  'Auk has stopped trying. Try again; it goes on where it stood.': ['departures/parts/Need', 'Try again'],
  'Correct the country of the address.': ['orders/parts/StopCure', 'MendAddress'],
  'Add the ….': ['orders/parts/StopCure', 'MendAddress'],
  'Add the region.': ['orders/parts/StopCure', 'MendAddress'],
  'Correct the postcode.': ['orders/parts/StopCure', 'MendAddress'],
  'Shorten the line.': ['orders/parts/StopCure', 'MendAddress'],
  'Add the telephone number.': ['orders/parts/StopCure', 'MendAddress'],
  'Add a line, or cancel it.': ['orders/parts/LinesPanel', 'PickProduct'],
  'Wait for the payment, or cancel it.': ['orders/parts/StopCure', 'It is paid'],
  'Cancel it, or say that it was paid again.': ['orders/parts/StopCure', 'It was paid again'],
  'Link the listing to a product.': ['orders/parts/StopCure', 'LinkListing'],
  'Correct the recipe.': ['kits/pages/KitPage', 'RecipeEdit'],
  'Correct the recipe and save it again.': ['kits/pages/KitPage', 'RecipeEdit'],
  'Make it live again, or cancel the line.': ['orders/parts/StopCure', 'Revive'],
  'Give it a code.': ['orders/parts/StopCure', 'GiveCode'],
  'Accept it as an order of its own, or cancel it.': ['orders/parts/StopCure', 'It is an order of its own'],
  'Take the channel’s, or keep ours.': ['orders/parts/StopCure', 'Decide'],
  'Put the parcel aside; the office decides whether it goes.': ['orders/parts/OrderActs', 'Unpark'],
  'Put the parcel aside; it goes on when the order is freed on its page.': [
    'orders/parts/OrderActs',
    'Unpark',
  ],
  'Choose a product that is sold, or make it live again.': ['catalog/pages/ProductPage', 'Live'],
  'Make a new product for it.': ['catalog/pages/ProductsPage', 'New product'],
  'Make the product first.': ['catalog/pages/ProductsPage', 'New product'],
  'Give its parts their case codes.': ['catalog/pages/ProductPage', 'code'],
  'Retire it first.': ['catalog/pages/ProductPage', 'Retired'],
  'Connect it in Setup, or switch it on.': ['channels/pages/ChannelsPage', 'Connect'],
  'Let those lists be picked first; a picker who does not find it says so there.': [
    'picking/parts/Stop',
    'AUK-SHORT',
  ],
  'Wait until it is picked; a picker who does not find it says so there.': [
    'picking/parts/Stop',
    'AUK-SHORT',
  ],
  'Count the place first.': ['stock/pages/CountsPage', 'Count'],
  'Count that product, then plan again.': ['stock/pages/CountsPage', 'Count'],
  'Look what lies there, or count the place.': ['places/pages/PlacePage', 'Count'],
  'Look at the lots that lie in the house.': ['stock/parts/stockColumns', 'Lot'],
  'Take it off the truck, then close and leave it for the next departure.': [
    'departures/parts/HandoverActs',
    'for the next',
  ],
  'Scan them, or close and leave them for the next departure.': [
    'departures/parts/HandoverActs',
    'for the next',
  ],
  'Choose a departure that is still open.': ['departures/parts/DepartureRow', '/departures/'],
  'Finish the first page of Auk: name the house there.': ['shell/pages/OpeningPage', 'Name of the house'],
  'Choose another place, or change what the place holds.': ['places/pages/PlacesPage', 'Save the place'],
  'Make one under Stock > Places.': ['places/pages/PlacesPage', 'Save the place'],
  'Check the code, or find it with the scan field.': ['shell/ScanField', 'Scan or type anything'],
  'Ask an admin, who gives rights under Setup > People.': [
    'people/parts/RightsGrid',
    'What each role may do',
  ],
  'Wait …, or ask an admin for a new PIN under Setup > People.': ['people/pages/PeoplePage', 'New PIN'],
  'Make somebody else an admin first.': ['people/parts/EditPerson', 'Role'],
  'Give the person another role.': ['people/parts/EditPerson', 'Role'],
  'Look at the list of people.': ['people/pages/PeoplePage', 'People'],
  'Plan another build for more.': ['kits/pages/BuildsPage', 'PlanBuild'],
  'Say at most …, or plan another build for the rest.': ['kits/pages/BuildsPage', 'PlanBuild'],
  'Give it a recipe as a kit first.': ['kits/pages/KitPage', 'RecipeEdit'],
  'Write its recipe first.': ['kits/pages/KitPage', 'RecipeEdit'],
  'Change the recipe, or make the part live again.': ['kits/pages/KitPage', 'RecipeEdit'],
  'Mend the recipe first, or ask for fewer.': ['kits/pages/KitPage', 'RecipeEdit'],
  'Make it live again first.': ['catalog/pages/ProductPage', 'Live'],
  'Make it live again first, or leave it out.': ['catalog/pages/ProductPage', 'Live'],
  'Change its kind to kit or bundle first.': ['catalog/parts/ProductFacts', 'kind'],
  'Pick the parts first.': ['picking/pages/PickPage', 'Floor'],
  'Finish fewer, or bring more parts.': ['kits/parts/FinishBuild', 'Finish'],
  'Wait until that list is picked; what was picked is put back then.': [
    'picking/pages/PickPage',
    'Pick lists',
  ],
  'Wait until that list is picked, then do it again; what was picked is put back then.': [
    'picking/pages/PickPage',
    'Pick lists',
  ],
  'Void its label at the bench and take the parcel open again, then do it again. Park the order when the parcel must not leave.':
    ['packing/parts/Keys', 'AUK-VOID'],
  'Ask the bench to finish it, or to take everything out with Undo; then do it again.': [
    'packing/benchKeys.ts',
    'AUK-UNDO',
  ],
  'Set the order aside; it comes back to the queue when that is picked. What is in stays in.': [
    'packing/benchKeys.ts',
    'AUK-ASIDE',
  ],
  'Take the parcel open again at the bench, then do it again.': ['packing/parts/Keys', 'AUK-REOPEN'],
  'Take everything out at the bench with Undo and let it be put back, or leave the line as it is.': [
    'packing/benchKeys.ts',
    'AUK-UNDO',
  ],
  'Open the build under Kits; it is finished or given up there.': ['kits/pages/BuildPage', 'Give it up'],
  'Only an order that is still in the house can be parked.': ['orders/pages/OrderPage', 'stage'],
  'It must be picked first.': ['picking/pages/PickPage', 'Pick lists'],
  'Look at the order to see why.': ['orders/pages/OrderPage', 'StopNote'],
  'Open another list under Pick.': ['picking/pages/PickPage', 'Pick lists'],
  'Choose fewer orders, or pack what stands at the benches first.': [
    'packing/pages/BenchPage',
    'Scan a slip or a tote',
  ],
  'Pack it, choose a box and give its weight first.': ['packing/parts/PackSide', 'weight'],
  'Ask for the prices again.': ['packing/parts/PackSide', 'prices'],
  'Ask for the prices again and choose anew.': ['packing/parts/PackSide', 'prices'],
  'Wait a moment and look at the parcel again.': ['parcels/pages/ParcelsPage', 'Parcels'],
  'Leave those where they are; put the rest away with Stock > Move.': ['stock/parts/CarryStock', 'Move'],
  'Move fewer, or wait until they are picked.': ['stock/parts/CarryStock', 'Move'],
  'Take fewer apart, or look where the others lie.': ['kits/parts/TakeApart', 'Take kits apart'],
};

/** Cures that are found outside Auk: in a spreadsheet, at the channel, in words between people. */
export const OUTSIDE = [
  'Ask the shop for one.',
  'They are all read. Write again in an hour, or answer a mail of ours.',
  'It is open until 90 days after delivery. Answer a mail of the shop instead.',
  'Ask the carrier, or take the parcels there.',
  'Call the carrier; then try again.',
  'It goes without such papers.',
  'Its label stays; ask the carrier to give the parcel back.',
  'Begin anew with npm start -- --own --fresh, or take another folder: AUK_DATA=folder npm start -- --own',
  'Start it with npm start -- --own, or take another folder for the demo: AUK_DATA=folder npm start',
  'Look at the lines that the start command printed; the newest code counts.',
  'Put the parcel aside for the lead.',
  'Ask the office about it.',
  'Copy it from the channel’s own settings.',
  'Export it again and drop it here.',
  'Cut it into smaller files.',
  'Keep the columns that are needed; … are read at most.',
  'Save it as CSV or XLSX and drop that.',
  'Save it as CSV again; texts with commas or quotes must stand in quotes.',
  'Open it in a spreadsheet, save it again as XLSX or CSV, and drop that.',
  'Open it in a spreadsheet, keep the sheet that is needed, and save it again.',
  'Make it smaller.',
  'Save it as one of these and drop it again.',
  'Let them finish, or open it when they have stopped for two minutes.',
  'Look at the print; one of the two is another lot.',
  'Take another and scan it.',
  'Open the list again by its code; what is taken stays taken.',
  'Scan the trolley or tote that a batch list was picked onto, or the code of that list.',
  'Scan the trolley of another heap, or open an order of it at the bench.',
  'Scan the trolley again; what is sorted stays sorted.',
  'Let it stand; a wall that nobody uses is in nobody’s way.',
];

/** Cures that say how to do the refused act rightly, where it was refused. */
export const AT_ONCE = [
  'Take one down that nobody uses.',
  'Narrow down what is printed, such as to one aisle.',
  'Move fewer, or into another box.',

  'Try again in a minute; nothing was booked.',
  'Wait a moment; it is never booked twice.',
  'Try again; until it is known the booking counts as standing.',
  'It stays booked.',
  'Wait a moment; it is asked until it is known.',
  'Send … or …, or single units.',
  'Say what is to go first.',
  'Try again in a minute.',
  'Scan something that goes with it.',
  'Say at most ….',
  'Check its SKU, or scan one of it.',
  'Claim them, or write them off.',
  'Book them with a reason.',
  'Send …, or wait for fresh ones.',
  'Send … now, or wait until more is here.',
  'Try again in a minute; nothing was chosen yet.',

  'Try again; nothing was changed here.',
  'It comes with its tracking number.',
  'Type the number that the supplier told.',
  'Name it by the number of its purchase order.',
  'Look at its parcel on its page.',
  'Tell whoever sent it; it comes back as a return.',
  'Read the list anew and press again.',
  'Give it another id.',
  'Give its button another code.',
  'Choose one of ….',
  'Give it a button with its words and code, or another moment.',
  'Add what it is to do, or let it stop the book.',
  'Let it run at ….',
  'Say which lines are meant.',
  'Correct what it is given.',
  'Make two rules of it.',
  'Add to it, or take it out.',
  'Choose a field that is offered.',
  'Use one of: ….',
  'Correct the value.',
  'Choose one of the versions listed.',
  'Choose another in rule …, or take it out.',
  'Look at what changed, then save over it or take it over.',
  'Take it out.',
  'Try the book again.',
  'Choose one of its rules.',
  'Open the page anew and write again.',
  'Write it as it sounds; accents are fine.',
  'Choose one of the boxes offered.',
  'Give it another name.',
  'A UN number has four digits, such as UN 3077.',
  'Choose one of the carriers offered.',
  'Choose a later last day.',
  'Choose a shorter one.',
  'Press again: what was booked already is not booked twice.',
  'Choose a PNG or JPEG file of at most 300 KB.',
  'It is on its way again; look again.',
  'Type both, or leave the server empty so that no mail leaves.',
  'Scan its label, or find its order by the buyer.',
  'Scan the label of a shelf.',
  'Look at it in the list.',
  'It has not left yet.',
  'Choose a time that is still to come.',
  'Choose one of the kinds offered.',
  'Look at the list of carriers again.',
  'Wait until all of it has its price.',
  'Look at it again, then buy.',
  'Type the number that stands on this label.',
  'Compare the services again.',
  'Look at the parcel again.',
  'Choose somebody who works here.',
  'Another picker takes it over by scanning its code.',
  'Give at least one aisle and the cross aisle at its end.',
  'Put the … onto a cross aisle, within its length.',
  'Let it end after it begins.',
  'Give each aisle and cross aisle a code of its own.',
  'Give it another x, or let it begin where the other ends.',
  'Join it by a cross aisle.',
  'Choose a list that still stands in the plan.',
  'Unlock it first, or choose another list.',
  'Move another order off that list first, or put this one on a new list.',
  'Wait until it is ready, or stop it with what there is.',
  'Make a new plan of what is.',
  'It may have been forgotten meanwhile; make a new one.',
  'Begin anew and scan it again.',
  'Bring it in as several files.',
  'Try again in a minute, when this server is new too.',
  'Look what is there now, and do it again if it is still wanted.',
  'Open the page anew and do it again.',
  'Drop a picture on the page.',
  'Choose another product.',
  'Nothing needs to be made.',
  'Type its name.',
  'Open it, or take another SKU.',
  'Look at it again, then repeat your change.',
  'Scan it; codes have letters, digits and signs of a keyboard only.',
  'Scan the code on the product.',
  'Scan the code again, or take it off there first.',
  'It stays, retired, so that their stories stay whole.',
  'Say yes or no.',
  'Type at most … characters.',
  'Type a whole number.',
  'Type a country code such as US.',
  'A harmonised code has at least 6 digits.',
  'A product has no such field.',
  'Type a name of at most 120 characters.',
  'Type at most 120 characters.',
  'A stage is Unproven, Live or Retired.',
  'A kind is piece, kit or bundle.',
  'Type a number and a unit.',
  'Choose one of those offered.',
  'Choose one of the channels offered.',
  'Name another place.',
  'Begin the count of this place anew.',
  'Name its parts.',
  'Name a place on the shelves, a bench, the dock, the staging place or the quarantine.',
  'Correct it and send it again.',
  'Scan your badge.',
  'Open Auk itself and try there.',
  'Drop a CSV or XLSX file on the page.',
  'Say which column holds it, or name the columns so that they can be recognised.',
  'Choose the columns again.',
  'It was done meanwhile; look again.',
  'A bundle is gathered when it is picked.',
  'Name the bench where they lie.',
  'Say how many were made.',
  'Name one of its parts.',
  'Scan the place where the kits are put.',
  'Name a place on the shelves or the dock.',
  'Name a bench, like BE-1.',
  'Look at it again, then repeat the change.',
  'Change a part or a quantity first.',
  'Choose a kit.',
  'Leave it out of the choice; it keeps the recipe it was picked by.',
  'Only its payment and mail can still be corrected.',
  'Someone has decided it already; look at the order again.',
  'Look at it again, then repeat it.',
  'Go on with what is made ready.',
  'Look at the order again.',
  'Find it by its name, or scan it.',
  'Take off less, or change that line alone.',
  'Look at what changed, then save yours on top or let it be.',
  'Type them exactly.',
  'Only an order that is still in the house can be cancelled.',
  'Type the tag.',
  'Type why.',
  'Look at its page.',
  'Scan something, or add it by its SKU.',
  'Only orders to one buyer at one address can be put together.',
  'Enter it first.',
  'Only orders that are on no pick list yet can be split or put together.',
  'Leave at least one unit in it.',
  'Open the order again by its slip; what is in stays in.',
  'Scan the slip of the order.',
  'Scan the slip or the tote.',
  'Scan the slip, the tote, the list or the parcel of an order, or a product that is picked.',
  'Scan them, or ask the lead, who can give you that right.',
  'Take the photo again.',
  'Open it again at a bench that weighs, and close it there.',
  'Somebody has looked at it already; look at the list again.',
  'Type the weight, such as 1.2 kg.',
  'Put it down and wait, or type the weight, such as 1.2 kg.',
  'Scan the code that is stuck on the bench.',
  'Give it another name, or look at the list again.',
  'Look at the tray again.',
  'Scan each piece, or ask the lead, who can give you that right.',
  'It has left; nothing is packed any more.',
  'Scan the badge again and type the PIN slowly.',
  'Scan the code on the top of the printed list; it begins with PL-.',
  'Look at the list again.',
  'Take it out of the choice, or look why.',
  'Put its quantities together on one line.',
  'Order its parts.',
  'Look at that one, or give this one another reference.',
  'Open another order.',
  'Open the purchase order again by its code.',
  'Scan the place again, or choose the proposed one.',
  'Scan a place on the shelves.',
  'Put them somewhere else.',
  'Say that this is meant, or leave the order as it is.',
  'Scan it again.',
  'Open the list or the order again by its code.',
  'Sign in with your badge.',
  'Correct it and try again.',
];
