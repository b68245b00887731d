import { of, throwError } from 'rxjs';
import { ApiRefusal, problemHere } from '../../api/api.ts';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { FileList } from './fileList.ts';

describe('the files of a product', () => {
  const open = async (value: string | null) => {
    const api = new FakeApi();
    let id = 20;
    const uploadFile = (file: File) =>
      file.name.endsWith('.exe')
        ? throwError(() => new ApiRefusal(problemHere(`“${file.name}” was not taken: it is no PDF.`)))
        : of({ id: String(++id), name: file.name, bytes: file.size });
    Object.assign(api, { uploadFile });
    const page = await Page.open(FileList, api, { inputs: { label: 'files', value } }).settled();
    const told: string[] = [];
    page.fixture.componentInstance.changed.subscribe((text) => told.push(text));
    return { page, told };
  };
  const drop = async (page: Page<FileList>, ...names: string[]) => {
    const data = new DataTransfer();
    for (const name of names) data.items.add(new File(['%PDF-'], name));
    const event = new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true });
    page.host.querySelector('.drop')!.dispatchEvent(event);
    await page.settled();
    return event;
  };

  it('are handed in and stand behind those that are there, named without their ending; what is refused says why', async () => {
    const { page, told } = await open('12 Manual');
    const event = await drop(page, 'Pattern sheet.pdf', 'virus.exe', 'Care.txt');
    expect(event.defaultPrevented).toBeTrue();
    expect(told).toEqual(['Manual #12 | Pattern sheet #21 | Care #22']);
    expect(page.texts('[role=alert]')).toHaveSize(1);
  });

  it('are renamed, moved and taken out', async () => {
    const { page, told } = await open('12 Manual\n13 Pattern');
    const [name] = page.host.querySelectorAll('input');
    name!.value = 'How to fill it';
    name!.dispatchEvent(new Event('change'));
    name!.value = '  ';
    name!.dispatchEvent(new Event('change'));
    const buttons = [...page.host.querySelectorAll<HTMLButtonElement>('li button')];
    expect(buttons.map((button) => button.getAttribute('aria-label'))).toEqual([
      'Move Manual up',
      'Take Manual out',
      'Move Pattern up',
      'Take Pattern out',
    ]);
    buttons[2]!.click();
    buttons[1]!.click();
    expect(told).toEqual(['How to fill it #12 | Pattern #13', 'Pattern #13 | Manual #12', 'Pattern #13']);
  });
});
