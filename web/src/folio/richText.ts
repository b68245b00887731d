import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { htmlOf, plainText } from '@ivory/core';
import { type ChainedCommands, type Editor } from '@tiptap/core';
import { words } from '../words/en.ts';
import { type Picture } from '../pictures/pictureOrder.ts';

/** The verbs of the strip above the text. */
const VERBS = ['bold', 'italic', 'heading', 'list', 'numbers', 'quote'] as const;
type Verb = (typeof VERBS)[number];

/** A text that is marked up as it will be read: the editor is a kept package, fetched when a text is opened. */
@Component({
  selector: 'ivory-rich-text',
  templateUrl: './richText.html',
  styleUrl: './richText.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RichText {
  readonly label = input.required<string>();
  readonly boxId = input.required<string>();
  /** The value: HTML, or paragraphs divided by empty lines. */
  readonly text = input.required<string>();
  /** The pictures that can be put in at the cursor. */
  readonly pictures = input<readonly Picture[]>([]);
  readonly changed = output<string>();

  protected readonly words = words;
  protected readonly verbs = VERBS;
  private readonly place = viewChild.required<ElementRef<HTMLElement>>('place');
  private editor: Editor | undefined;
  private isGone = false;
  /** What stands under the cursor; it changes with every step of it. */
  protected readonly active = signal<ReadonlySet<string>>(new Set());
  protected readonly count = signal('');
  protected readonly linking = signal(false);
  private last = '';

  constructor() {
    afterNextRender(() => void this.open());
    inject(DestroyRef).onDestroy(() => {
      this.isGone = true;
      this.editor?.destroy();
    });
    effect(() => {
      const html = htmlOf(this.text());
      if (this.editor && !this.editor.isFocused && html !== this.last) this.show(html);
    });
  }

  private async open(): Promise<void> {
    const [{ Editor }, { StarterKit }, { Image }] = await Promise.all([
      import('@tiptap/core'),
      import('@tiptap/starter-kit'),
      import('@tiptap/extension-image'),
    ]);
    if (this.isGone) return;
    const { nativeElement: element } = this.place();
    this.editor = new Editor({
      element,
      extensions: [
        StarterKit.configure({
          heading: { levels: [2, 3, 4] },
          link: { openOnClick: false },
          code: false,
          codeBlock: false,
          trailingNode: false,
        }),
        Image,
      ],
      editorProps: {
        attributes: {
          id: this.boxId(),
          role: 'textbox',
          'aria-multiline': 'true',
          'aria-label': this.label(),
          spellcheck: 'true',
        },
      },
      onTransaction: () => this.look(),
      onBlur: () => this.tell(),
    });
    this.show(htmlOf(this.text()));
  }

  private show(html: string): void {
    this.editor!.commands.setContent(html, { emitUpdate: false });
    this.last = this.editor!.isEmpty ? '' : this.editor!.getHTML();
    this.look();
  }

  /** What the strip and the count say. */
  private look(): void {
    const { editor } = this;
    if (!editor) return;
    const names: Record<Verb, boolean> = {
      bold: editor.isActive('bold'),
      italic: editor.isActive('italic'),
      heading: editor.isActive('heading'),
      list: editor.isActive('bulletList'),
      numbers: editor.isActive('orderedList'),
      quote: editor.isActive('blockquote'),
    };
    this.active.set(new Set(VERBS.filter((verb) => names[verb])));
    const plain = plainText(editor.getHTML()).replace(/\s+/g, ' ').trim();
    this.count.set(plain === '' ? '' : words.folio.count(plain));
  }

  private tell(): void {
    if (!this.editor) return;
    const html = this.editor.isEmpty ? '' : this.editor.getHTML();
    if (html === this.last) return;
    this.last = html;
    this.changed.emit(html);
  }

  protected press(verb: Verb): void {
    if (!this.editor) return;
    const step = this.editor.chain().focus();
    const steps: Record<Verb, () => ChainedCommands> = {
      bold: () => step.toggleBold(),
      italic: () => step.toggleItalic(),
      heading: () => step.toggleHeading({ level: 3 }),
      list: () => step.toggleBulletList(),
      numbers: () => step.toggleOrderedList(),
      quote: () => step.toggleBlockquote(),
    };
    steps[verb]().run();
  }

  /** The words that are chosen lead to an address; an empty one takes the link away. */
  protected link(address: string): void {
    this.linking.set(false);
    const step = this.editor?.chain().focus().extendMarkRange('link');
    if (address.trim() === '') step?.unsetLink().run();
    else step?.setLink({ href: address.trim() }).run();
  }

  protected put({ key, alternative }: Picture): void {
    this.editor
      ?.chain()
      .focus()
      .setImage({ src: `/pictures/${key}.webp`, alt: alternative ?? '' })
      .run();
  }
}
