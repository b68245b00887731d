import { tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { cleanHtml } from './cleanHtml.ts';

const KEY = 'a'.repeat(64);

describe('HTML of a description', () => {
  it('keeps what an editor makes', () => {
    const html =
      `<h2>Iron gall</h2><p>Dark, <strong>and</strong> <em>darker</em>.</p><ul><li><p>a</p></li></ul>` +
      `<p><a href="https://example.org/ink" rel="noopener">more</a></p><p><img src="/pictures/${KEY}.webp" alt="A bottle" /></p>`;
    expect(cleanHtml(html)).toBe(html);
  });

  it('takes out what runs, styles, or is loaded from elsewhere (vectors of the OWASP filter evasion sheet, from memory)', () => {
    const attacks = [
      '<script>alert(1)</script>',
      '<SCRIPT SRC=https://evil.example/x.js></SCRIPT>',
      '<img src=x onerror=alert(1)>',
      '<IMG SRC="javascript:alert(1);">',
      '<IMG SRC=JaVaScRiPt:alert(1)>',
      '<IMG """><SCRIPT>alert(1)</SCRIPT>">',
      '<a href="jav&#x09;ascript:alert(1)">x</a>',
      '<a href=" &#14; javascript:alert(1)">x</a>',
      '<a href="data:text/html;base64,PHNjcmlwdD4=">x</a>',
      '<a href="//evil.example">x</a>',
      '<p onmouseover="alert(1)" style="background:url(https://evil.example/x)">x</p>',
      '<svg><script>alert(1)</script></svg>',
      '<svg/onload=alert(1)>',
      '<math><mtext></p><img src=x onerror=alert(1)></math>',
      '<iframe src="javascript:alert(1)"></iframe>',
      '<object data="https://evil.example"></object><embed src="https://evil.example">',
      '<style>@import "https://evil.example/x.css";</style>',
      '<link rel="stylesheet" href="https://evil.example/x.css">',
      '<meta http-equiv="refresh" content="0;url=https://evil.example">',
      '<base href="https://evil.example/">',
      '<form action="https://evil.example"><button>x</button></form>',
      '<noscript><p title="</noscript><img src=x onerror=alert(1)>"></noscript>',
      '<template><img src=x onerror=alert(1)></template>',
      '<img src="https://evil.example/beacon.png">',
      '<img src="/pictures/../api/journal">',
      '<<script>script>alert(1)<</script>/script>',
    ];
    for (const attack of attacks) {
      const clean = cleanHtml(`<p>before</p>${attack}<p>after</p>`);
      expect(clean)
        .withContext(attack)
        .not.toMatch(/<(?!\/?(?:p|a|br|h[234]|ul|li)\b)|\son\w+=|style=|javascript|data:|evil\.example\/x|"\/\/|<img/i);
      expect(clean).withContext(attack).toContain('before');
    }
  });

  it('makes a link of an embedded film', () => {
    expect(cleanHtml('<iframe src="https://films.example/7"></iframe>')).toBe(
      '<a href="https://films.example/7" rel="noopener">https://films.example/7</a>',
    );
  });

  it('is clean once it was cleaned', () => {
    const piece = fc.constantFrom(
      '<p>',
      '</p>',
      '<b>',
      '<div>',
      '</div>',
      '<h1>',
      '<li>',
      '<table>',
      '<td>',
      '<img src=x',
      ' onerror=1>',
      '<a href="',
      'java',
      'script:',
      '">',
      '<',
      '&lt;',
      'x',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const once = cleanHtml(pieces.join(''));
        expect(cleanHtml(once)).toBe(once);
      }),
      { numRuns: tries(500), examples: [[['<td>', '<div>', '<p>']]] },
    );
  });
});
