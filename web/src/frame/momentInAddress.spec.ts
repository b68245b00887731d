import { TestBed } from '@angular/core/testing';
import { momentOf } from '@ivory/core';
import { Store } from '@ngrx/store';
import { moment, MomentActions } from '../api/moment.ts';
import { type OpenedAt, openedAt } from '../testing/openedAt.ts';
import { MomentInAddress } from './momentInAddress.ts';

const EVE = '2026-12-24T08:00:00.000Z';
const AT_EVE = momentOf(Date.parse(EVE));

describe('the moment in the address', () => {
  let opened: OpenedAt;
  const openAt = async (address: string) => {
    opened = await openedAt(address, moment, MomentInAddress);
  };
  const looked = () => TestBed.inject(Store).selectSignal(moment.selectMomentState)();
  const saidBy = (name: string) => opened.router.parseUrl(opened.router.url).queryParamMap.get(name);

  it('is looked at when the application opens, beside the question', async () => {
    await openAt(`/prices?q=in%20Ink&at=${EVE}&as=2`);
    expect(looked()).toEqual({ at: AT_EVE, group: '2' });
    expect(saidBy('q')).toBe('in Ink');
  });

  it('stands there when it is chosen, goes along to the next page, and is gone with now', async () => {
    await openAt('/prices?q=in%20Ink');
    await opened.act(MomentActions.lookAt({ at: AT_EVE }));
    await opened.act(MomentActions.lookAs({ group: '2' }));
    expect([saidBy('at'), saidBy('as'), saidBy('q')]).toEqual([EVE, '2', 'in Ink']);
    await opened.router.navigateByUrl('/calendar');
    await opened.settled();
    expect(opened.router.url.split('?')[0]).toBe('/calendar');
    expect([saidBy('at'), saidBy('as')]).toEqual([EVE, '2']);
    await opened.act(MomentActions.lookAt({ at: null }));
    await opened.act(MomentActions.lookAs({ group: null }));
    expect(opened.router.url).toBe('/calendar');
  });

  it('is left by Back', async () => {
    await openAt('/range');
    await opened.act(MomentActions.lookAt({ at: AT_EVE }));
    await opened.back();
    expect(looked().at).toBeNull();
    expect(opened.router.url).toBe('/range');
  });

  it('is now, for anybody, where the address says what is none', async () => {
    for (const said of ['at=soon&as=everybody', 'at=9999-01-01T00:00Z&as=0', 'at=1900-01-01T00:00Z&as=-1']) {
      TestBed.resetTestingModule();
      await openAt(`/range?${said}`);
      expect(looked()).withContext(said).toEqual({ at: null, group: null });
    }
  });
});
