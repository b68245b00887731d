import { type FieldKey } from '../../kinds/keys.ts';
import { isEditable } from '../../kinds/field.ts';
import { readTemplate, written } from '../../words/template.ts';
import { template } from '../slots.ts';
import { showValue } from '../../values/values.ts';
import { failed, stepKind } from '../step.ts';
import { isText, textIn } from '../parts/text.ts';

/** Writes a text from a template of other fields; one that would come out empty is skipped, and counted. */
export const write = stepKind({
  sentence: 'write {field} from {template}',
  slots: { template },
  takes: (field) => isEditable(field) && isText(field),
  prepare: (field, slots, asking) => {
    const parts = readTemplate(slots.template, (key) => key);
    if (!parts.ok) return () => failed('comes out empty');
    return (_value, row) => {
      const text = written(parts.value, (key) => {
        const source = asking.register.find(key);
        return source ? showValue(source, row[key as FieldKey] ?? null, asking) : '';
      });
      return textIn(field, text, asking);
    };
  },
});
