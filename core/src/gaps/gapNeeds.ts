/**
 * What a shop wants of goods besides what every shop does: how much there is in one, in the categories whose goods are sold by measure
 * (Directive 98/6/EC, article 3: the price of a unit of quantity stands beside the selling price), and a profile to ship by, where goods
 * have none from the shop.
 */
export interface GapNeeds {
  readonly measuredIn: readonly string[];
  readonly shipped: boolean;
}
