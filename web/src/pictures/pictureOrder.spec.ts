import { type KeptPicture } from '@ivory/contract';
import { Subject } from 'rxjs';
import { ApiRefusal } from '../api/api.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { words } from '../words/en.ts';
import { type Picture, PictureOrder } from './pictureOrder.ts';

const picture = (id: string): Picture => ({
  id,
  key: id.repeat(64).slice(0, 64),
  name: `${id}.png`,
  alternative: null,
  format: 'png',
  width: 10,
  height: 10,
  bytes: 100,
});

describe('pictures in order', () => {
  let uploads: {
    readonly name: string;
    readonly come: Subject<KeptPicture>;
    readonly share: (share: number) => void;
  }[];
  const open = async (...ids: string[]) => {
    uploads = [];
    const uploadPicture = ({ name }: File, share: (share: number) => void) => {
      const come = new Subject<KeptPicture>();
      uploads.push({ name, come, share });
      return come;
    };
    const api = Object.assign(new FakeApi(), { uploadPicture });
    const inputs = { label: 'gallery', pictures: ids.map(picture) };
    const page = await Page.open(PictureOrder, api, { inputs }).settled();
    const orders: string[] = [];
    page.fixture.componentInstance.changed.subscribe((order) => orders.push(order));
    return { page, orders };
  };
  const drop = async (page: Page<PictureOrder>, ...names: string[]) => {
    const dataTransfer = new DataTransfer();
    for (const name of names) dataTransfer.items.add(new File(['x'], name));
    page.host.querySelector('.drop')!.dispatchEvent(new DragEvent('drop', { dataTransfer, cancelable: true }));
    await page.settled();
  };

  it('are moved by button and by key, taken out, and each has its text', async () => {
    const { page, orders } = await open('1', '2', '3');
    const texts: unknown[] = [];
    page.fixture.componentInstance.textChanged.subscribe((text) => texts.push(text));
    page.host.querySelector<HTMLElement>(`[aria-label="${words.pictures.later(1)}"]`)!.click();
    page.host
      .querySelectorAll('li')[2]!
      .dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', altKey: true }));
    page.host.querySelector<HTMLElement>(`[aria-label="${words.pictures.takeOut(2)}"]`)!.click();
    expect(orders).toEqual(['#2 | #1 | #3', '#1 | #3 | #2', '#1 | #3']);
    const field = page.host.querySelector<HTMLInputElement>('li input')!;
    field.value = 'A nib';
    field.dispatchEvent(new Event('change'));
    expect(texts).toEqual([{ id: '1', text: 'A nib' }]);
  });

  it('come one after another, with how far each is, and none is lost when one is refused', async () => {
    const { page, orders } = await open('1');
    await drop(page, 'a.png', 'b.png', 'c.png');
    expect(uploads.map(({ name }) => name)).toEqual(['a.png']);
    uploads[0]!.share(0.5);
    await page.settled();
    expect(page.host.querySelector('progress')!.value).toBe(0.5);
    uploads[0]!.come.next({ picture: picture('2'), isNew: true });
    await page.settled();
    uploads[1]!.come.error(new ApiRefusal({ type: 'about:blank', title: '“b.png” was not taken.', status: 422 }));
    await page.settled();
    uploads[2]!.come.next({ picture: picture('3'), isNew: false });
    await page.settled();
    // The order that stands does not know of the second yet.
    expect(orders).toEqual(['#1 | #2', '#1 | #2 | #3']);
    expect(page.texts('[role=alert]')).toEqual(['“b.png” was not taken. Put away']);
    expect(page.texts('.marked-caution')).toEqual([words.pictures.known('c.png')]);
    await page.press('Put away');
    expect(page.texts('[role=alert]')).toEqual([]);
  });
});
