import { inject, Injectable } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { type RouterStateSnapshot, TitleStrategy } from '@angular/router';
import { words } from '../words/en.ts';

/** Names a page for its tab, the history and bookmarks: what is asked, where, and in what. */
@Injectable({ providedIn: 'root' })
export class PageTitle extends TitleStrategy {
  private readonly title = inject(Title);

  override updateTitle(page: RouterStateSnapshot): void {
    const question = page.root.queryParamMap.get('q');
    this.title.setTitle([question, this.buildTitle(page), words.product].filter(Boolean).join(' – '));
  }
}
