/** A rule of the demo's book: its name, why it is there, and its sentence. */
export interface DemoRule {
  id: string;
  name: string;
  note: string;
  sentence: string;
  group?: string;
  /** Where it runs at a button. */
  button?: { words: string; places: ('list' | 'order' | 'floor' | 'bench')[]; code: string };
}

/** The rule book of Skepside Bee Supply: ready sentences to begin from, and three that Auk finds fault with. */
export const RULES: DemoRule[] = [
  {
    id: 'glass',
    name: 'Dear glass is signed for',
    note: 'A broken case of jars costs more than the signature.',
    group: 'Glass',
    sentence:
      'at clear, when properties have "fragile" and value is over 80.00 do ask for a signature, tell the packer "Two sheets of paper around each jar."',
  },
  {
    id: 'glass-first',
    name: 'Very dear glass goes first',
    note: '',
    group: 'Glass',
    sentence: 'at clear, when properties have "fragile" and value is over 250.00 do let it go first',
  },
  {
    id: 'seeds',
    name: 'Seed packets alone by letter',
    note: 'They are thin and light; a parcel costs three times as much.',
    sentence:
      'at clear, when products are only "SED-PHA", "SED-CLO", "SED-BOR" and stays in the country and weight is under 3 oz do send by "heron letter"',
  },
  {
    id: 'loss',
    name: 'A loss on shipping takes the cheapest',
    note: 'Where the buyer paid less than the label costs, nothing dearer than needed.',
    sentence:
      'at clear, when margin on shipping is under 0.00 and payment is not "on delivery" do send by the cheapest in time of all',
  },
  {
    id: 'hazard',
    name: 'Hazardous goods by ground',
    note: 'Mite and moth crystals may not fly; below the rule that takes the cheapest, so that this one wins.',
    sentence: 'at clear, when properties have "hazardous" do send by "redfen ground", tag it "hazard"',
  },
  {
    id: 'seeds-buy',
    name: 'Seed packets are bought without a person',
    note: 'Letters are cheap, and their price hardly changes.',
    sentence:
      'at packed, when products are only "SED-PHA", "SED-CLO", "SED-BOR" and stays in the country do buy its label unattended',
  },
  {
    id: 'heavy',
    name: 'A heavy line has a parcel of its own',
    note: 'What lies beside it is crushed. Many small pieces are shared out by the bench anyway.',
    sentence:
      'at arrival, always do give a parcel of its own to each line where (weight of the line is over 40 lb and weight of a piece is over 5 lb)',
  },
  {
    id: 'by-supplier',
    name: 'What the supplier ships',
    note: 'Extractors are large; the foundry sends them to the buyer.',
    sentence:
      'at arrival, always do let the supplier send lines where (properties of the line have "shipped by the supplier")',
  },
  {
    id: 'gift',
    name: 'A gift',
    note: '',
    group: 'Buttons',
    sentence: 'at button, always do tag it "gift", tell the packer "A gift: tissue paper, no prices."',
    button: { words: 'Gift', places: ['list', 'order', 'bench'], code: 'RB-GIFT' },
  },
  {
    id: 'leak',
    name: 'Leaks',
    note: 'Seen at the shelf: the packer looks at every jar.',
    group: 'Buttons',
    sentence:
      'at button, when properties have "fragile" do tag it "look", tell the packer "Look for leaks: turn each jar over."',
    button: { words: 'Look for leaks', places: ['floor', 'bench'], code: 'RB-LOOK' },
  },
  {
    id: 'big',
    name: 'Large orders go first',
    note: '',
    sentence: 'at arrival, when units is at least 60 do let it go first, tag it "large"',
  },
  {
    id: 'sign-20',
    name: 'Nothing signed under 20',
    note: '',
    sentence: 'at clear, when value is under 20.00 do ask for no signature',
  },
  {
    id: 'sign-40',
    name: 'Nothing signed under 40',
    note: 'Took the place of the one above.',
    sentence: 'at clear, when value is under 40.00 do ask for no signature',
  },
  {
    id: 'ontario',
    name: 'Ontario asks for papers',
    note: '',
    sentence:
      'at clear, when stays in the country and country is "CA" do note for the staff "Ask for papers."',
  },
  {
    id: 'abroad',
    name: 'Abroad is done by the office',
    note: '',
    sentence: 'at clear, when goes abroad do tag it "abroad", then stop',
  },
  {
    id: 'abroad-dear',
    name: 'Dear and abroad is signed for',
    note: '',
    sentence: 'at clear, when goes abroad and value is over 100.00 do ask for a signature',
  },
];

/** What its rules may spend without a person, in cents: for one label, in a day, and of each rule in a day. */
export const CAPS = { labelMinor: 300, dayMinor: 2_500, rules: { 'seeds-buy': 1_000 } };
