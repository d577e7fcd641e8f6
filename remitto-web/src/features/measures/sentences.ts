import type { Derivation } from '../../api/types';
import { aggregationWords, testWords, windowWords } from '../audiences/conditions';
import { attributeWords } from '../people/words';

/** How a measure comes about, in one line. */
export function derivationWords(derivation: Derivation): string {
  switch (derivation.kind) {
    case 'events': {
      const { measure, steps } = derivation;
      const where = measure.of.where.map(
        (one) => `${attributeWords(one.column).toLowerCase()} ${testWords(one.test)}`,
      );
      return [
        `${measure.of.events}${where.length > 0 ? ` whose ${where.join(', ')}` : ''}:`,
        aggregationWords(measure.aggregation),
        windowWords(measure.window),
        steps.length > 0 ? `; bounds ${steps.join(', ')}` : '',
      ]
        .join(' ')
        .replace(' ;', ';')
        .trim();
    }
    case 'score':
      return `${attributeWords(derivation.of)} in ${derivation.bands} bands, the ${derivation.largestIsBest ? 'largest' : 'smallest'} best`;
    case 'computed':
      return derivation.expression;
  }
}
