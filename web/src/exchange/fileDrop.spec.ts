import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { Subject } from 'rxjs';
import { ApiRefusal } from '../api/api.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { FileDrop } from './fileDrop.ts';

describe('a file over the window', () => {
  let uploads: Subject<{ id: string }>;
  let page: Page<FileDrop>;
  const names: string[] = [];
  beforeEach(async () => {
    uploads = new Subject();
    names.length = 0;
    const upload = (file: File) => {
      names.push(file.name);
      return uploads;
    };
    page = await Page.open(FileDrop, Object.assign(new FakeApi(), { upload })).settled();
  });

  /** What the browser tells while a file, or something else, is dragged. */
  function drag(kind: string, ...files: string[]): Promise<unknown> {
    const dataTransfer = new DataTransfer();
    for (const name of files) dataTransfer.items.add(new File(['code,name\nA-1,Ink\n'], name));
    if (files.length === 0) dataTransfer.setData('text/plain', 'a word');
    window.dispatchEvent(new DragEvent(kind, { dataTransfer, cancelable: true }));
    return page.settled();
  }

  it('shows that it can be dropped, until it is taken away; a dragged text is nothing', async () => {
    await drag('dragover');
    expect(page.texts('.over')).toEqual([]);
    await drag('dragover', 'list.csv');
    expect(page.texts('.over')).toEqual(['Drop the file to bring it in']);
    await drag('dragleave', 'list.csv');
    expect(page.texts('.over')).toEqual([]);
  });

  it('is taken in when it is dropped, and its page opens', async () => {
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await drag('drop', 'list.csv');
    expect(names).toEqual(['list.csv']);
    expect(page.texts('[role=status]')).toEqual(['Taking in list.csv …']);
    uploads.next({ id: '4' });
    await page.settled();
    expect(page.texts('[role=status]')).toEqual([]);
    expect(go).toHaveBeenCalledOnceWith(['/import', '4']);
  });

  it('that is refused is named with the reason', async () => {
    await drag('drop', 'photo.csv');
    uploads.error(new ApiRefusal({ type: 'about:blank', title: 'This is no text file.', status: 422 }));
    await page.settled();
    expect(page.refusal).toBe('photo.csv: This is no text file.');
    expect(page.texts('[role=status]')).toEqual([]);
  });

  it('comes alone: of several none is taken, and that is said', async () => {
    await drag('drop', 'a.csv', 'b.csv');
    expect(names).toEqual([]);
    expect(page.refusal).toBe('Drop one file at a time: each becomes a proof of its own.');
  });
});
