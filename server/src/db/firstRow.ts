/** The first row of a statement that always gives one, such as an insert that returns its id. Throws where there is none. */
export function firstRow<Row>(rows: readonly Row[]): Row {
  const [row] = rows;
  if (row === undefined) throw new Error('a statement gave no row');
  return row;
}
