import { type FEED_PROPERTIES } from '../kinds/listFields.ts';
import { type BuiltInKey } from '../kinds/keys.ts';

/**
 * What price lists of German, French, Spanish and Italian suppliers call the fields (common practice), folded: without
 * accents and signs; options and attributes by what feeds call them. They are read in headings only; a question is asked in the
 * words of the register.
 */
export const FOREIGN_HEADINGS: Partial<Record<BuiltInKey | (typeof FEED_PROPERTIES)[number], readonly string[]>> = {
  name: [
    ...['bezeichnung', 'artikelbezeichnung', 'artikelname', 'produktname', 'produktbezeichnung', 'titel'],
    ...['designation', 'libelle', 'nom', 'nom du produit', 'intitule'],
    ...['denominacion', 'nombre', 'nombre del producto', 'titulo'],
    ...['denominazione', 'nome', 'nome prodotto', 'titolo'],
  ],
  code: [
    ...['artikelnummer', 'artikel nr', 'artikelnr', 'art nr', 'artnr', 'bestellnummer', 'bestell nr', 'artikelcode'],
    ...['reference article', 'reference produit', 'code article', 'code produit'],
    ...['referencia', 'codigo', 'codigo articulo', 'codigo de articulo', 'cod articulo'],
    ...['codice', 'codice articolo', 'codice prodotto', 'cod articolo', 'riferimento'],
  ],
  brand: ['hersteller', 'marke', 'marque', 'fabricant', 'marca', 'fabricante', 'produttore', 'marchio'],
  supplier: ['lieferant', 'fournisseur', 'proveedor', 'fornitore'],
  category: [
    ...['warengruppe', 'kategorie', 'produktgruppe', 'sortiment', 'categorie', 'famille', 'rayon'],
    ...['categoria', 'familia', 'grupo', 'famiglia', 'reparto'],
  ],
  color: ['farbe', 'farbton', 'couleur', 'coloris', 'colore'],
  size: ['grosse', 'groesse', 'inhalt', 'taille', 'contenance', 'talla', 'tamano', 'taglia', 'misura', 'formato'],
  price: [
    ...['vk', 'vk preis', 'verkaufspreis', 'preis', 'uvp', 'uvp preis', 'endpreis', 'ladenpreis', 'listenpreis'],
    ...['prix', 'prix de vente', 'prix public', 'prix conseille', 'pvc', 'ppi', 'pvp', 'precio', 'precio de venta'],
    ...[
      'precio venta',
      'prezzo',
      'prezzo di vendita',
      'prezzo vendita',
      'prezzo al pubblico',
      'prezzo di listino',
      'listino',
    ],
  ],
  cost: [
    ...[
      'ek',
      'ek preis',
      'einkaufspreis',
      'einkauf',
      'haendlerpreis',
      'handlerpreis',
      'prix d achat',
      'prix achat',
      'prix net',
    ],
    ...['cout', 'precio de coste', 'precio coste', 'precio de compra', 'coste', 'costo', 'prezzo di acquisto'],
    ...['prezzo d acquisto', 'prezzo acquisto', 'prezzo netto'],
  ],
  stock: [
    ...['bestand', 'lagerbestand', 'menge', 'anzahl', 'verfugbar', 'quantite', 'en stock', 'disponible'],
    ...['existencias', 'cantidad', 'giacenza', 'quantita', 'disponibilita'],
  ],
  weight: ['gewicht', 'versandgewicht', 'bruttogewicht', 'poids', 'poids brut', 'peso', 'peso bruto', 'peso lordo'],
  gtin: [
    ...['strichcode', 'ean nummer', 'code barres', 'code barre', 'code a barres', 'gencod', 'gencode'],
    ...['codigo de barras', 'codigo ean', 'codice a barre', 'codice ean'],
  ],
  description: ['beschreibung', 'artikelbeschreibung', 'langtext', 'descriptif', 'descripcion', 'descrizione'],
  taxRate: ['mwst', 'mwst satz', 'ust', 'steuersatz', 'tva', 'taux tva', 'iva', 'tipo iva', 'aliquota', 'aliquota iva'],
};

/** Words for an amount before tax and with it, as they stand beside the name of a price. */
export const FOREIGN_BEFORE_TAX = [
  'netto',
  'exkl mwst',
  'zzgl mwst',
  'ohne mwst',
  'ht',
  'hors taxes?',
  'sin iva',
  'iva esclusa',
  'neto',
];
export const FOREIGN_WITH_TAX = [
  'brutto',
  'inkl mwst',
  'incl mwst',
  'mit mwst',
  'ttc',
  'con iva',
  'iva incl\\w*',
  'ivato',
];

/** The bare word for a price. Before tax it is what a supplier asks. */
export const PRICE_WORDS: ReadonlySet<string> = new Set(['price', 'preis', 'prix', 'precio', 'prezzo']);
