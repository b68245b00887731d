import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { calls, type Import } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { work } from '../testing/shop.ts';
import { ImportPage } from './importPage.ts';

const file: Import = {
  id: '4',
  fileName: 'northgate.csv',
  encoding: 'utf-8',
  delimiter: ';',
  headingRow: 1,
  decimalSign: '.',
  columns: [
    { heading: 'Art. no.', field: 'code', by: 'synonym', samples: ['IG-1', 'IG-2'] },
    { heading: 'Trade price', field: 'cost', by: 'likeness', samples: ['£2.10'] },
    { heading: 'Shelf', field: null, by: 'none', samples: ['A4'] },
  ],
  state: 'uploaded',
  proof: null,
  settings: null,
  counts: null,
  joined: null,
  zeros: null,
};

/** What of the page a spec reaches into: what a person does through a select, which is the library's. */
interface Inside {
  setColumn(index: number, field: string | null): void;
  chooseHeadings(row: number): void;
  decimalSign: { set(sign: string): void };
}

/** How a file is read unless a person says otherwise. */
const usual = { makeNames: true, stage: 'Preparing' as const, joinVariants: true, productColumn: null };

describe('the page of an import', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi().answer(calls.getImport, file).answer(calls.readImport, { work: work({ state: 'waiting' }) });
  });
  const open = () => Page.open(ImportPage, api, { inputs: { id: '4' } }).settled();
  const sent = () => api.inputsOf(calls.readImport)[0] as { body: { columns: unknown } };

  it('shows each heading with its first values, where it goes and how that was found', async () => {
    const page = await open();
    expect(page.texts('h1')).toEqual(['Import: northgate.csv']);
    expect(page.texts('.page-head .soft')).toEqual(['UTF-8, divided by semicolons']);
    const rows = page.texts('tbody tr');
    expect(rows[0]).toContain('IG-1 · IG-2');
    expect(rows[0]).toContain('by synonym');
    expect(rows[1]).toContain('by likeness, please check');
    expect(rows[2]).not.toContain('by ');
  });

  it('reads the file as its headings were matched and corrected; a field is taken once', async () => {
    const page = await open();
    (page.fixture.componentInstance as unknown as Inside).setColumn(2, 'cost');
    await page.settled();
    expect(page.texts('tbody tr')[1]).not.toContain('by likeness');
    await page.press('Read the file into a proof');
    expect(sent()).toEqual({
      params: { id: '4' },
      body: { columns: ['code', null, 'cost'], decimalSign: '.', makeProducts: true, ...usual },
    } as never);
  });

  it('starts from how the file was read before', async () => {
    const settings = {
      columns: ['code', null, 'price'] as const,
      decimalSign: ',',
      makeProducts: false,
      makeNames: true,
      stage: 'Preparing',
    };
    api.answer(calls.getImport, { ...file, state: 'read', proof: '9', settings } as unknown as Import);
    const page = await open();
    await page.press('Read the file into a proof');
    expect(sent()).toEqual({
      params: { id: '4' },
      body: { columns: ['code', null, 'price'], decimalSign: ',', makeProducts: false, ...usual },
    } as never);
  });

  it('says in which unit weights are read', async () => {
    const column = { heading: 'Weight, kg', field: 'weight', by: 'synonym', samples: ['0.11'] } as const;
    api.answer(calls.getImport, { ...file, columns: [...file.columns, column] });
    const page = await open();
    expect(page.texts('tbody tr')[3]).toContain('by synonym; in kilograms');
    (page.fixture.componentInstance as unknown as Inside).setColumn(3, null);
    await page.settled();
    expect(page.texts('tbody tr')[3]).not.toContain('kilograms');
  });

  it('warns where a column that is taken for an amount is headed with another currency', async () => {
    const column = { heading: 'Price EUR', field: null, by: 'none', samples: ['9.50'] } as const;
    api.answer(calls.getImport, { ...file, columns: [...file.columns, column] });
    const page = await open();
    expect(page.texts('tbody .marked-caution')).toEqual([]);
    (page.fixture.componentInstance as unknown as Inside).setColumn(3, 'price');
    await page.settled();
    expect(page.texts('tbody .marked-caution')).toEqual(['the heading says EUR; its amounts will be taken as GBP']);
  });

  it('says where the headings stand when they do not come first, and starts from the decimal sign of the file', async () => {
    expect((await open()).texts('.marked-caution')).toEqual([]);
    TestBed.resetTestingModule();
    api.answer(calls.getImport, { ...file, headingRow: 4, decimalSign: ',' });
    const page = await open();
    expect(page.texts('.pair')[0]).toContain('in row 4');
    expect(page.texts('.marked-caution')).toEqual(['What stands above them is left out.']);
    await page.press('Read the file into a proof');
    expect(sent()).toEqual(jasmine.objectContaining({ body: jasmine.objectContaining({ decimalSign: ',' }) }) as never);
  });

  it('takes the headings from the row that is chosen, or none; a row that cannot be is put back', async () => {
    const bare = file.columns.map((column) => ({ ...column, heading: '', field: null, by: 'none' as const }));
    api.answer(calls.chooseHeadings, { ...file, headingRow: 0, columns: bare });
    const page = await open();
    const inside = page.fixture.componentInstance as unknown as Inside;
    inside.chooseHeadings(0);
    await page.settled();
    expect(api.inputsOf(calls.chooseHeadings)).toEqual([{ params: { id: '4' }, body: { headingRow: 0 } }] as never);
    expect(page.texts('.pair')[0]).toContain('none: the first row is goods');
    expect(page.texts('tbody strong')).toEqual(['column 1', 'column 2', 'column 3']);
    api.refuse(calls.chooseHeadings, 'Row 3 is blank.');
    inside.chooseHeadings(3);
    await page.settled();
    expect(page.texts('.pair')[0]).toContain('none: the first row is goods');
  });

  it('starts anew with another file, whatever was chosen for the one before', async () => {
    const page = await open();
    (page.fixture.componentInstance as unknown as Inside).decimalSign.set(',');
    page.fixture.componentRef.setInput('id', '5');
    await page.settled();
    await page.press('Read the file into a proof');
    expect(sent()).toEqual(
      jasmine.objectContaining({ params: { id: '5' }, body: jasmine.objectContaining({ decimalSign: '.' }) }) as never,
    );
  });

  it('waits while the file is read, and goes to its proof', async () => {
    const page = await open();
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await page.press('Read the file into a proof');
    await page.tell(work({ state: 'running' }));
    const button = page.host.querySelector<HTMLButtonElement>('.ant-btn-primary')!;
    expect([button.disabled, button.textContent.trim()]).toEqual([true, 'Reading …']);
    await page.tell(work({ state: 'done', result: '9' }));
    expect(go).toHaveBeenCalledOnceWith(['/proof', '9']);
  });

  it('says why a file was not read, and lets it be read again', async () => {
    const page = await open();
    await page.press('Read the file into a proof');
    await page.tell(work({ state: 'failed', note: 'Row 12: the quote that opens here is not closed.' }));
    expect(page.texts('[role=alert]')).toEqual([
      'The file was not read: Row 12: the quote that opens here is not closed.',
    ]);
    expect(page.host.querySelector<HTMLButtonElement>('.ant-btn-primary')!.disabled).toBeFalse();
  });

  it('says what the server refuses, and that there is no such import', async () => {
    api.refuse(calls.readImport, 'Choose the column of the SKU code.');
    const page = await open();
    await page.press('Read the file into a proof');
    expect(page.refusal).toBe('Choose the column of the SKU code.');
    TestBed.resetTestingModule();
    api.refuse(calls.getImport, 'There is no such import.');
    expect((await open()).texts('[role=alert]')).toEqual(['There is no such import.']);
  });
});
