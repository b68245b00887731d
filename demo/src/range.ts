/** A kind of goods: where it lies, what it is called, what it varies by, what it costs. Prices are in pence. */
export interface Kind {
  readonly path: readonly string[];
  readonly prefix: string;
  readonly noun: string;
  readonly drawing: 'bottle' | 'notebook' | 'sheet' | 'pen' | 'nib' | 'box' | 'stick';
  readonly colours: readonly string[];
  readonly sizes: readonly string[];
  readonly price: readonly [number, number];
  readonly grams: readonly [number, number];
  readonly words: string;
}

const INKS = ['Blue', 'Black', 'Oxblood', 'Moss', 'Slate', 'Plum', 'Amber', 'Teal'];
const COVERS = ['Ivory', 'Slate', 'Rust', 'Fern'];
const METALS = ['Brass', 'Steel', 'Black'];

export const KINDS: readonly Kind[] = [
  { path: ['Ink', 'Bottled', 'Iron gall'], prefix: 'IG', noun: 'Iron Gall Ink', drawing: 'bottle', colours: INKS.slice(0, 5), sizes: ['30 ml', '50 ml'], price: [850, 1900], grams: [95, 210], words: 'A permanent ink that darkens as it dries.' },
  { path: ['Ink', 'Bottled', 'Dye'], prefix: 'DY', noun: 'Writing Ink', drawing: 'bottle', colours: INKS, sizes: ['30 ml', '80 ml'], price: [600, 1600], grams: [90, 260], words: 'A free-flowing ink for everyday writing.' },
  { path: ['Ink', 'Bottled', 'Pigment'], prefix: 'PG', noun: 'Pigment Ink', drawing: 'bottle', colours: INKS.slice(2), sizes: ['30 ml'], price: [1100, 2400], grams: [95, 130], words: 'Lightfast and waterproof once it has dried.' },
  { path: ['Ink', 'Cartridges', 'Short'], prefix: 'CS', noun: 'Short Cartridges', drawing: 'box', colours: INKS.slice(0, 6), sizes: ['Pack of 6', 'Pack of 12'], price: [250, 700], grams: [20, 45], words: 'Short cartridges that fit most pens.' },
  { path: ['Ink', 'Cartridges', 'Long'], prefix: 'CL', noun: 'Long Cartridges', drawing: 'box', colours: INKS.slice(0, 4), sizes: ['Pack of 5'], price: [350, 750], grams: [25, 40], words: 'Long cartridges for longer letters.' },
  { path: ['Paper', 'Notebooks', 'Lined'], prefix: 'NL', noun: 'Lined Notebook', drawing: 'notebook', colours: COVERS, sizes: ['A6', 'A5', 'A4'], price: [700, 2600], grams: [140, 620], words: 'Sewn, so that it lies flat at every page.' },
  { path: ['Paper', 'Notebooks', 'Dotted'], prefix: 'ND', noun: 'Dotted Notebook', drawing: 'notebook', colours: COVERS.slice(0, 3), sizes: ['A5'], price: [900, 2200], grams: [260, 420], words: 'A five-millimetre dot grid in pale grey.' },
  { path: ['Paper', 'Notebooks', 'Plain'], prefix: 'NP', noun: 'Plain Notebook', drawing: 'notebook', colours: COVERS.slice(0, 2), sizes: ['A6', 'A5'], price: [650, 2000], grams: [130, 400], words: 'Nothing on the page but what you put there.' },
  { path: ['Paper', 'Loose sheets', 'Writing'], prefix: 'SW', noun: 'Writing Paper', drawing: 'sheet', colours: ['White', 'Cream'], sizes: ['A5', 'A4'], price: [500, 1500], grams: [220, 540], words: 'Fifty sheets with a smooth, hard surface.' },
  { path: ['Paper', 'Loose sheets', 'Blotting'], prefix: 'SB', noun: 'Blotting Paper', drawing: 'sheet', colours: ['White', 'Rose'], sizes: ['Pack of 10'], price: [250, 600], grams: [60, 140], words: 'Thick and thirsty.' },
  { path: ['Paper', 'Cards and envelopes', 'Cards'], prefix: 'CC', noun: 'Correspondence Cards', drawing: 'sheet', colours: ['Cream', 'Fern', 'Slate'], sizes: ['Pack of 10', 'Pack of 25'], price: [550, 1800], grams: [110, 380], words: 'Deckle-edged cards of heavy stock.' },
  { path: ['Paper', 'Cards and envelopes', 'Envelopes'], prefix: 'CE', noun: 'Lined Envelopes', drawing: 'sheet', colours: ['Cream', 'White'], sizes: ['C6', 'DL'], price: [400, 1200], grams: [90, 260], words: 'Gummed, and lined with tissue.' },
  { path: ['Pens', 'Fountain', 'Steel nib'], prefix: 'FS', noun: 'Fountain Pen', drawing: 'pen', colours: ['Black', 'Oxblood', 'Teal', 'Ivory'], sizes: ['Fine', 'Medium', 'Broad'], price: [1800, 7500], grams: [55, 95], words: 'A springy steel nib in a turned barrel.' },
  { path: ['Pens', 'Fountain', 'Gold nib'], prefix: 'FG', noun: 'Gold Nib Fountain Pen', drawing: 'pen', colours: ['Black', 'Ivory'], sizes: ['Fine', 'Medium'], price: [12000, 28000], grams: [70, 110], words: 'Fourteen-carat nib, tuned by hand.' },
  { path: ['Pens', 'Dip', 'Holders'], prefix: 'DH', noun: 'Nib Holder', drawing: 'pen', colours: ['Oak', 'Black'], sizes: [], price: [500, 1900], grams: [18, 40], words: 'A holder with a cork grip.' },
  { path: ['Pens', 'Dip', 'Nibs'], prefix: 'DN', noun: 'Pointed Nibs', drawing: 'nib', colours: METALS.slice(0, 2), sizes: ['Pack of 3', 'Pack of 10'], price: [300, 1100], grams: [8, 20], words: 'Flexible nibs for copperplate hands.' },
  { path: ['Pens', 'Pencils', 'Graphite'], prefix: 'PC', noun: 'Graphite Pencils', drawing: 'stick', colours: [], sizes: ['HB', '2B', '4B'], price: [180, 950], grams: [8, 70], words: 'Smooth graphite in cedar.' },
  { path: ['Desk', 'Storage', 'Pen rolls'], prefix: 'RL', noun: 'Pen Roll', drawing: 'box', colours: ['Rust', 'Slate'], sizes: ['6 pens', '12 pens'], price: [2200, 4800], grams: [120, 260], words: 'Waxed canvas with a linen lining.' },
  { path: ['Desk', 'Storage', 'Boxes'], prefix: 'BX', noun: 'Letter Box', drawing: 'box', colours: ['Ivory', 'Fern'], sizes: [], price: [1800, 4200], grams: [480, 900], words: 'Covered board with brass corners.' },
  { path: ['Desk', 'Wax and seals', 'Wax'], prefix: 'WX', noun: 'Sealing Wax', drawing: 'stick', colours: ['Oxblood', 'Moss', 'Black', 'Amber'], sizes: [], price: [350, 900], grams: [25, 60], words: 'Breaks cleanly and posts safely.' },
];

export const BRANDS = ['Harrow & Pine', 'Moss Lane', 'Quillmere', 'Fell & Fathom', 'Nettlecombe', 'Brae Paperworks', 'Saltmarsh Ink Works', 'Wren & Daughters', 'Örebäck', 'Tarn & Teasel'] as const;
export const SUPPLIERS = ['Northgate Trade', 'Pennine Supply', 'Marlow Wholesale', 'From the makers'] as const;

export const FIRST_WORDS = ['Larkspur', 'Bracken', 'Thistle', 'Heron', 'Juniper', 'Kestrel', 'Rowan', 'Curlew', 'Sorrel', 'Lapwing', 'Hazel', 'Plover', 'Teasel', 'Yarrow', 'Willow', 'Tansy', 'Merlin', 'Clover', 'Aspen', 'Dunlin', 'Fennel', 'Linnet', 'Campion', 'Alder', 'Café', 'Swift', 'Bryony', 'Osprey', 'Mallow', 'Whinchat'] as const;
