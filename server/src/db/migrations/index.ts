import { type Migration } from 'kysely';
import * as firstSlice from './001_first_slice.ts';
import * as splitShelf from './002_split_shelf.ts';
import * as rowsAlike from './003_rows_alike.ts';
import * as lowestMargin from './004_lowest_margin.ts';
import * as codesSwap from './005_codes_swap.ts';
import * as headingsBelow from './006_headings_below.ts';
import * as withoutHeadings from './007_without_headings.ts';
import * as soundUnderAttack from './008_sound_under_attack.ts';
import * as importsSayMore from './009_imports_say_more.ts';
import * as feedsInOpenWords from './010_feeds_in_open_words.ts';
import * as kindsAndFields from './011_kinds_and_fields.ts';
import * as rangeLaidOut from './012_range_laid_out.ts';
import * as soldAsOne from './013_sold_as_one.ts';
import * as goodsInWords from './014_goods_in_words.ts';
import * as levelsOfPlaces from './015_levels_of_places.ts';
import * as rowsByProduct from './016_rows_by_product.ts';
import * as variantsAndFiles from './017_variants_and_files.ts';
import * as sizesOfPictures from './018_sizes_of_pictures.ts';
import * as kept from './019_kept.ts';
import * as askedMore from './020_asked_more.ts';
import * as doneAgain from './021_done_again.ts';
import * as wordsInPlace from './022_words_in_place.ts';
import * as warningsStop from './023_warnings_stop.ts';
import * as sales from './024_sales.ts';
import * as pricesOnRecord from './025_prices_on_record.ts';
import * as planned from './026_planned.ts';
import * as buyers from './027_buyers.ts';
import * as contents from './028_contents.ts';
import * as outletPrices from './029_outlet_prices.ts';
import * as shipping from './030_shipping.ts';
import * as saleBadges from './031_sale_badges.ts';
import * as saleTimes from './032_sale_times.ts';
import * as shippingTold from './033_shipping_told.ts';
import * as soldByMeasure from './034_sold_by_measure.ts';
import * as keptLayouts from './035_kept_layouts.ts';
import * as examined from './036_examined.ts';
import * as zeros from './037_zeros.ts';
import * as agreed from './038_agreed.ts';
import * as toldMore from './039_told_more.ts';
import * as struck from './040_struck.ts';
import * as shopPerson from './041_shop_person.ts';
import * as recordedSince from './042_recorded_since.ts';
import * as alsoCalled from './043_also_called.ts';
import * as pricesAtHand from './044_prices_at_hand.ts';
import * as descriptionsAtHand from './045_descriptions_at_hand.ts';
import * as linesReferTogether from './046_lines_refer_together.ts';
import * as partsTakenBack from './047_parts_taken_back.ts';

/** Every migration, in order; forward only. */
export const MIGRATIONS: Readonly<Record<string, Migration>> = {
  '001_first_slice': firstSlice,
  '002_split_shelf': splitShelf,
  '003_rows_alike': rowsAlike,
  '004_lowest_margin': lowestMargin,
  '005_codes_swap': codesSwap,
  '006_headings_below': headingsBelow,
  '007_without_headings': withoutHeadings,
  '008_sound_under_attack': soundUnderAttack,
  '009_imports_say_more': importsSayMore,
  '010_feeds_in_open_words': feedsInOpenWords,
  '011_kinds_and_fields': kindsAndFields,
  '012_range_laid_out': rangeLaidOut,
  '013_sold_as_one': soldAsOne,
  '014_goods_in_words': goodsInWords,
  '015_levels_of_places': levelsOfPlaces,
  '016_rows_by_product': rowsByProduct,
  '017_variants_and_files': variantsAndFiles,
  '018_sizes_of_pictures': sizesOfPictures,
  '019_kept': kept,
  '020_asked_more': askedMore,
  '021_done_again': doneAgain,
  '022_words_in_place': wordsInPlace,
  '023_warnings_stop': warningsStop,
  '024_sales': sales,
  '025_prices_on_record': pricesOnRecord,
  '026_planned': planned,
  '027_buyers': buyers,
  '028_contents': contents,
  '029_outlet_prices': outletPrices,
  '030_shipping': shipping,
  '031_sale_badges': saleBadges,
  '032_sale_times': saleTimes,
  '033_shipping_told': shippingTold,
  '034_sold_by_measure': soldByMeasure,
  '035_kept_layouts': keptLayouts,
  '036_examined': examined,
  '037_zeros': zeros,
  '038_agreed': agreed,
  '039_told_more': toldMore,
  '040_struck': struck,
  '041_shop_person': shopPerson,
  '042_recorded_since': recordedSince,
  '043_also_called': alsoCalled,
  '044_prices_at_hand': pricesAtHand,
  '045_descriptions_at_hand': descriptionsAtHand,
  '046_lines_refer_together': linesReferTogether,
  '047_parts_taken_back': partsTakenBack,
};
