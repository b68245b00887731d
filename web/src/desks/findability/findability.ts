import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { words } from '../../words/en.ts';

/** Not built yet: says what will be here, and where the nearest thing is today. */
@Component({
  selector: 'ivory-findability',
  imports: [RouterLink],
  template: `
    <div class="page">
      <div class="empty-place">
        <h1>{{ words.findability.title }}</h1>
        <p>{{ words.findability.later }}</p>
        <p>{{ words.findability.meanwhile }}</p>
        <a routerLink="/range">{{ words.findability.toRange }}</a>
      </div>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Findability {
  protected readonly words = words;
}
