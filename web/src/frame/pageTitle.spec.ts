import { provideLocationMocks } from '@angular/common/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Title } from '@angular/platform-browser';
import { provideRouter, Router, TitleStrategy } from '@angular/router';
import { PageTitle } from './pageTitle.ts';
import { routes } from './routes.ts';

describe('the title of a page', () => {
  it('says what is asked, where, and in what', async () => {
    const pages = routes.map(({ path, title, redirectTo }) =>
      redirectTo === undefined ? { path, title, children: [] } : { path, redirectTo, pathMatch: 'full' as const },
    );
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideLocationMocks(),
        provideRouter(pages),
        { provide: TitleStrategy, useExisting: PageTitle },
      ],
    });
    const at = async (address: string) => {
      await TestBed.inject(Router).navigateByUrl(address);
      return TestBed.inject(Title).getTitle();
    };
    expect(await at('/journal')).toBe('Journal – Ivory Shelf');
    expect(await at('/prices?q=margin%20%3C%2045')).toBe('margin < 45 – Prices – Ivory Shelf');
    expect(await at('/')).toBe('Range – Ivory Shelf');
    expect(await at('/import/7')).toBe('Import – Ivory Shelf');
    for (const { path, title, redirectTo } of routes)
      if (redirectTo === undefined) expect(title).withContext(path!).toBeDefined();
  });
});
