/** What the server refuses with or says of work that did not end, by the part that says it: no part writes a sentence of its own. */
export const refusalWords = {
  asked: {
    questionUnreadable: 'The question does not read.',
    cannotSortBy: 'The sheet cannot be sorted by this field.',
    listClosed: 'This list was closed. Ask the question again.',
    noSuchField: 'The shop has no such field.',
    valuesWithoutNames: (name: string) => `The values of ${name} have no names to be counted by.`,
  },
  changes: {
    handIsLanding: 'The proof in hand is landing. Edit again when it has landed.',
    noSuchProof: 'There is no such proof.',
    proofNotOpen: (state: string) => `This proof is not open any more: it is ${state}.`,
    valuesChanged: (lines: number) =>
      `Nothing landed: ${lines === 1 ? '1 value has' : `${lines} values have`} changed since this was proposed. ` +
      'They are marked “changed since” and left out. Take in those that should still change, then land again.',
    thingsGone: (lines: number) =>
      `Nothing landed: ${lines === 1 ? '1 line names or changes' : `${lines} lines name or change`} what is gone since this was proposed. ` +
      'They are marked “gone since it was proposed” and left out; land again for the rest.',
    codesTaken:
      'Nothing landed: codes were taken by other SKUs since this was proposed. They are marked “code in use”. ' +
      'Change them or leave them out, then land again.',
    addressTaken:
      'Nothing landed: two products, two assortments, or two categories of one place would have the same address. Give one of them another.',
    referencesBroken:
      'Nothing landed: a brand, category, tag, value, product or picture that this refers to is not there, or was taken away since it was proposed, ' +
      'or other goods refer by now to one that this takes away. Leave out the lines that name it, then land again.',
    setInSet:
      'Nothing landed: a part of a set would be a set itself, as somebody made it one since this was proposed. Take it out of the parts.',
    endsBeforeItBegins:
      'Nothing landed: a sale or formula would end before it begins. Its last day is its first one or a later one.',
    movedUnderItself:
      'Nothing landed: a category would lie in itself, or in one that lies below it. Give it another place.',
    namesTaken: (taken: readonly string[]) =>
      `Nothing landed: names that this would give are in use by now: ${taken.map((name) => `“${name}”`).join(', ')}. ` +
      'Give another name; or, where they came from a file, press “Choose the columns again” and read it again: it then uses them.',
    nothingTakenIn: 'Nothing was taken in.',
    allThere: (paths: number) =>
      `${paths === 1 ? 'This category is' : `All ${paths} of these categories are`} in the shop, or in the proof, already.`,
    parentGone: 'The category that they should lie in is not there any more.',
    noSuchLanding: 'There is no such landing in the journal.',
    takenBackMeanwhile: (title: string, person: string) =>
      `Nothing landed: “${title}” was taken back meanwhile, by ${person}. Discard this proof.`,
    takenBackAlready: 'All of this landing was taken back already. To have it again, take that back.',
    partTakenBackAlready: 'What was chosen of this landing was taken back already. To have it again, take that back.',
    linesCannotLand: 'Nothing landed: some lines cannot land. Change them or leave them out.',
    linesCouldNotLand: 'Nothing is planned: some lines could not land.',
    underAnotherSeason:
      'Another season lies on all that this changed. What stood before both comes back when that one ends.',
    planFailed: 'Something went wrong here when its time came. Nothing was changed. Look at it, and land it by hand.',
    changedSinceLanded: (values: number) =>
      `${values === 1 ? '1 value was' : `${values} values were`} changed since this landed. Look through what would be taken back, and land it.`,
    nothingToLand: 'There is nothing to land: every line is left out.',
    notDeletedHere: (many: string) => `${many} are not deleted here.`,
    notMerged: (many: string) => `${many} are not merged: what goods have by them may differ.`,
    mergedIntoItself: 'A thing cannot be merged into itself.',
    notInShop: (one: string) => `A ${one} is not in the shop. What is only proposed is taken out by undoing it.`,
    mergedBelowItself: (one: string) => `A ${one} cannot be merged into one that lies below it.`,
    rulesAskForIt: (called: string, size: number) =>
      `The rule of ${called} asks for ${size === 1 ? 'it' : 'one of them'}. Change the rule first, or merge into another.`,
    attributeGone: 'There is no such attribute any more.',
    sameType: (name: string) => `${name} is of this type already.`,
    tooManyCells: (cells: number, most: number) =>
      `That would be ${cells} cells of SKUs, and at most ${most} can be edited at once. For more, use a rule.`,
    editedRowGone: 'A row that was edited is not in the shop any more. Ask the question again.',
    fieldGone: (key: string, many: string) => `There is no field ${key} of ${many} any more. Load the page again.`,
    asideNameTaken: (name: string) => `Another proof was set aside as “${name}” already. Give this one another name.`,
    nothingToSetAside: 'There is no proof in hand that could be set aside, or it is landing.',
    notSetAside: 'This proof was not set aside.',
    otherInHand: 'Another proof is in hand. Land it, discard it, or set it aside first.',
    nothingToRedo: 'There is nothing to do again: something was proposed since, or nothing was undone.',
    noSuchPlan: 'There is no such plan.',
    planWithoutMoment: 'Say when this is to land, or when it is to be taken back.',
    planInThePast: 'The moment at which this is to land has gone by. Choose a later one, or land it now.',
    planEndsFirst: 'This would be taken back before it lands. Choose a later moment for taking it back.',
    plannedAlready: 'This proof is planned already. Move that plan, or call it off.',
    planOver: 'This plan is over, or was called off.',
    patternNamesNoOption: (unknown: string, known: ReadonlySet<string>) =>
      `The pattern of codes names {${unknown}}, which is no option. Write it like {base}-{colour:3}-{size}; it can have: ${[...known].join(', ')}.`,
    patternBrace: (brace: string) =>
      `A ${brace} of the pattern stands without the other. Write it like {base}-{colour:3}-{size}.`,
    productGone: 'This product is not in the shop any more.',
    tooManySkus: (present: number, more: number) =>
      `A product has at most 2,000 SKUs, and this would be ${present + more}.`,
    noVariantsToHandOn: 'This product has no options, so there are no variants to hand on.',
    tooManyVariants: (many: number) =>
      `This would make ${many} variants; ask for fewer products, so that it is at most 20,000.`,
    saleGone: 'This sale is not in the shop any more.',
    saleWithoutDays: 'This sale has no days: it runs always, next year too. Give it days first.',
    notMadeHere: (many: string) => `${many} are not made here.`,
    noSuchField: (one: string, given: string) => `A ${one} has no field ${given}.`,
    valueWithoutField: 'A value belongs to an option, or to an attribute of choices. Choose which.',
    noOrder: (many: string) => `${many} have no order of their own.`,
    movedThingGone: (one: string) => `A ${one} that was moved is not there any more. Look again.`,
    targetGone: (one: string) => `The ${one} to move into is not there any more.`,
    insideItself: (one: string) => `A ${one} cannot lie in itself, or in one that lies below it.`,
    tooDeep: (depth: number, one: string, deepest: number) =>
      `That would lie ${depth} levels down. A ${one} lies ${deepest} levels down at most.`,
    sameNameThere: (same: string) => `There is “${same}” there already. Rename one of the two, or merge them.`,
    notASet: 'Only fields that hold several things are added to and taken from.',
    partOfSet: (code: string, set: string | null) => `${code} is a part of ${set}. Take it out of that set first.`,
    lastSku: 'A product keeps at least one SKU. Archive the product instead.',
    variantNotInShop: 'A variant is neither in the shop nor in the proof in hand.',
    severalProducts: 'These are variants of several products. Take away those of one at a time.',
    pastIsNotChanged: 'What was is not changed. Go back to now, or on to a coming moment, and change it there.',
  },
  exchange: {
    notCsv: (what: string) => `This is ${what}, not a CSV. Save the sheet as CSV and drop that.`,
    byteOfNothing: (row: number) =>
      `This is no text file: row ${row} holds a byte of nothing (NUL). Save the sheet as CSV and drop that.`,
    quoteOpen: (row: number) =>
      `A quote is opened in row ${row} and never closed. Find the single " there and close or double it.`,
    quoteWithin: (row: number) => `A quote stands within a cell in row ${row}. Double it, or take it out.`,
    rowTooLong: (row: number) => `Row ${row + 1} is longer than a row can be. A quote may be left open there.`,
    noCodeColumn:
      'No column is matched to the code, so rows cannot be found. Choose the column that holds the SKU codes.',
    fieldGone: 'A column is matched to a field that the shop does not have any more. Choose it again.',
    sameFieldTwice: (name: string) => `Two columns are matched to the same field (${name}). Take one of them out.`,
    computedField: (name: string) =>
      `The ${name} is worked out from other fields and cannot be set. Leave its column out.`,
    onlyCode: 'Only the code is matched. Match at least one column with values.',
    noHeadings:
      'This is not a CSV with headings: none of its first rows has two columns divided by a comma, semicolon or tab.',
    blankHeadingRow: (headingRow: number, lookedAt: number) =>
      `Row ${headingRow} is blank, or lies behind the first ${lookedAt} rows.`,
    tooManyColumns: (columns: number, most: number) =>
      `The file has ${columns} columns; at most ${most} can be read. Take some out.`,
    noRows: 'The file has headings and no rows behind them.',
    noSuchImport: 'There is no such import.',
    isBeingRead: 'The file is being read already. Wait until that is done, or stop it.',
    readingHeadings: 'The file is being read. Choose its headings when that is done.',
    fileTooLarge: (largest: number) =>
      `The file is larger than ${largest / 1024 / 1024} MB, so it was not read. Divide it and import the parts.`,
    fileEmpty: 'The file is empty.',
  },
  http: {
    unknownHost: (host: string) =>
      `This server is not called “${host.slice(0, 100)}”, so the request was not taken. Start it with --origin http://… to give it that name.`,
    otherSite: 'The request comes from another site, so it was not taken.',
    notJsonType: (type: string) =>
      `A request that changes something is sent as application/json, not as ${type || 'something without a content-type'}.`,
    noSuchMoment: 'This is no moment that can be looked at. Choose one before the year 2200.',
    noCustomerGroup: 'This is no customer group.',
    requestUnreadable: (place: string, message: string | undefined) =>
      `The request cannot be read${place && ` at ${place}`}: ${message ?? 'unknown'}.`,
    bodyNotJson: 'The body of the request is not JSON.',
    unforeseen: 'Something went wrong here. Nothing was changed. Try again.',
    givenUp:
      'This was given up: it took longer than 20 seconds, or nobody waited for it any more. Nothing was changed. Ask for a category, a brand or a code as well, so that there is less to look through.',
    databaseAway:
      'The database cannot be reached just now. Try again in a moment; the journal says whether something had landed before.',
  },
  jobs: {
    stopped: 'Stopped. Nothing was changed.',
    failed: 'Something went wrong. Nothing was changed. Try again.',
    noSuchWork: 'There is no such work.',
    triedTooOften: (times: number) => `It was begun ${times} times and never came to an end, so it was given up.`,
  },
  kept: {
    nameKept: (name: string) => `“${name}” is kept already. Give another name, or forget the other first.`,
    notKept: 'This is not kept any more. Keep it under a name of its own.',
    ruleNotKept: 'The rule was not kept.',
  },
  outlets: {
    noSuchOutlet: 'There is no such outlet.',
    noSuchFile: 'There is no such file; those of the latest deliveries are kept.',
    notTold: 'What outlets were told is in the files of their deliveries. Look at now, or at a moment to come.',
    stopped: 'Stopped. The file is written; no replies were kept.',
    deliveryUnderWay: (name: string) => `A delivery to ${name} is under way. Wait until it is done, or stop it.`,
    notHandedOver: (name: string, last: string, tried: number) =>
      `The file is written, but ${name} did not take it: ${last}. Tried ${tried === 1 ? 'once' : `${tried} times`}. Hand it over again later.`,
    replyUnreadable: (outlet: string, line: number, text: string) =>
      `${outlet} took the file, but its reply cannot be read: line ${line} is “${text.slice(0, 80)}”. No reply was kept.`,
  },
  pictures: {
    notTaken: (name: string, why: string) => `“${name}” was not taken: ${why}`,
    noPicture: 'it is no JPEG, PNG, WebP, AVIF or GIF, whatever its name says.',
    pictureBroken: 'it is broken, or ends before it is complete. Save it again.',
    pictureTooLarge: (width: number, height: number) =>
      `it has ${width} × ${height} pixels. Save it with at most 10,000 × 10,000.`,
    fileTooLarge: (name: string) => `“${name}” was not taken: it is larger than 10 MB. Save it smaller.`,
    fileEmpty: (name: string) => `“${name}” was not taken: it is empty.`,
    addressNotTaken: (address: string, why: string) => `“${address.slice(0, 200)}” was not taken: ${why}`,
    noWebAddress: 'it is no address on the web. Write it like https://example.org/pen.jpg.',
    privateNetwork: 'it leads into a private network, and is not fetched.',
    answered: (statusCode: number) => `the answer from there is ${statusCode}.`,
    tooManyRedirects: 'it is led on from one address to another too often.',
    downloadTooLarge: 'it is larger than 20 MB. Save it smaller.',
    empty: 'it is empty.',
    noKnownFile: 'it is no PDF, ZIP or plain text.',
    noSuchPicture: 'There is no such picture.',
    noSuchFile: 'There is no such file.',
  },
  prices: {
    customerGroupGone: 'There is no such customer group any more.',
    skuGone: 'One of these SKUs is not in the shop any more.',
    formulaUnreadable: 'The formula cannot be read.',
  },
  range: {
    noGtins: 'The shop has no GTINs of its own. Say with which digits they begin in the lists, at the shop.',
    fewGtinsLeft: (prefix: string, left: number, count: number) =>
      `Of the GTINs that begin with ${prefix} only ${left} are left, and ${count} are needed.`,
    productGone: 'There is no such product any more.',
    skuGone: 'This SKU is not in the shop any more.',
  },
  rules: {
    ruleCannotRun: 'The rule cannot be run.',
  },
  server: {
    requestTooLarge: 'The request is too large. Change fewer cells at once.',
    noSuchCall: 'There is no such call.',
  },
  shop: {
    notOnSale: 'There is no such product, or it is not on sale.',
    notBought: 'It cannot be bought now.',
    fewLeft: (left: number) => `There ${left === 1 ? 'is' : 'are'} only ${left} of it.`,
    noTextOnIt: 'No text can be put on it.',
    textTooLong: (longest: number) => `Its text has room for ${longest} characters.`,
    notShipped: {
      'no profile': 'What shipping costs is not known yet for something in the basket. Ask us before you order.',
      'not shipped there': 'We do not ship there.',
      'no weight':
        'What shipping costs goes by weight, and that of something in the basket is not known yet. Ask us before you order.',
      'too heavy': 'Together this is too heavy to be shipped there. Take something out of the basket.',
    },
    manyBuyAtOnce: 'Many buy the same at once. Send the order again.',
    orderNotTaken: (why: readonly string[]) => `The order was not taken. ${why.join(' ')}`,
    orderTooLarge: (code: string, left: number, quantity: number) =>
      `The order was not taken. ${code}: There are ${left} of it, and ${quantity} are wanted, with those in sets.`,
  },
  things: {
    tooManyForAList: (many: string) => `${many} are too many for a list. Ask for them in the question line.`,
    noSuchThing: (one: string) => `There is no such ${one} any more.`,
    noLineOfTexts: 'Only of a number there is a line to be drawn.',
  },
} as const;
