/**
 * What this engine publishes at `/profile`: its own names for the fields of an item, and its own words for values. They are made
 * up, and are nobody else's, so that whoever feeds it must really write what an outlet asks for.
 */
export const PROFILE = {
  namespace: 'urn:lamplight:listing:2',
  fields: {
    ref: 'the code of the goods, always the same',
    heading: 'what it is, up to 150 characters',
    blurb: 'what it is like, 40 characters or more',
    page: 'where it is bought',
    photo: 'a picture of it',
    shelfState: 'on-the-shelf, comes-later, spoken-for (before the day in shelvedFrom) or all-gone',
    shelvedFrom: 'the day from which it can be had, as 2027-01-31',
    asks: 'what it costs, as 12.50',
    coin: 'the currency of that, as ISO 4217 writes it',
    used: 'what it cost before, where it is reduced',
    askedBefore: 'the least that it cost in the thirty days before that',
    askedPer: 'what a usual quantity of it costs',
    since: 'when the reduction began',
    until: 'when it ends',
    maker: 'who makes it',
    strip: 'its GTIN, with the right check digit',
    wear: 'unworn, worn, mended or marred',
    kin: 'the same for goods that are variants of one',
    differsIn: 'in what those differ',
    tint: 'its colour',
    measure: 'its size',
    stuff: 'what it is made of',
    heft: 'what it weighs when packed, as 180 g',
    carriage: 'what it costs to send one to each country, as GB 3.95, IE 6.50',
    aisle: 'where it stands in the shop, as Ink > Bottled',
  },
  shelfStates: ['on-the-shelf', 'comes-later', 'spoken-for', 'all-gone'],
  wears: ['unworn', 'worn', 'mended', 'marred'],
} as const;

export type ListingField = keyof typeof PROFILE.fields;
export type Listing = Partial<Record<ListingField, string>>;
