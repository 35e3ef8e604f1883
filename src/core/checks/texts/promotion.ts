import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  promotion: { found: string };
}

/**
 * Talk of price, delivery and hurry, in nine languages: channels refuse it in titles, and it is wrong as soon as the price is
 * another. Common practice, no source.
 */
const talk = new RegExp(
  [
    'free (?:shipping|delivery|returns?)',
    '(?:best|lowest|special|unbeatable|low) prices?',
    '(?:buy|order|shop) now',
    '(?:hurry|while stocks? lasts?|limited (?:time|offer)|on sale|clearance|bestseller|best seller|money back)',
    '(?:versandkostenfrei|gratis ?versand|kostenlose[rn]? versand|bestpreis|tiefpreis|sonderpreis|sonderangebot|jetzt kaufen|nur heute|solange der vorrat reicht|ausverkauf)',
    '(?:envío gratis|gastos de envío incluidos|oferta especial|mejor precio|compra ya|rebajas)',
    '(?:livraison gratuite|frais de port offerts|meilleur prix|prix cassés?|soldes|achetez maintenant)',
    '(?:spedizione gratuita|miglior prezzo|offerta speciale|acquista ora|saldi)',
    '(?:gratis verzending|beste prijs|aanbieding|nu kopen|uitverkoop)',
    '(?:darmowa (?:dostawa|wysyłka)|najlepsza cena|promocja|kup teraz|wyprzedaż)',
    '(?:frete grátis|portes grátis|melhor preço|compre já|promoção|saldos)',
    '(?:fri frakt|bästa pris|köp nu)',
    String.raw`\d{1,2} ?% (?:off|discount|rabatt|reduziert|descuento|de réduction|sconto|korting|rabatu|zniżki|desconto)`,
    String.raw`[-−–] ?\d{1,2} ?%`,
  ].join('|'),
  'iu',
);
/** What is found stands by itself: "sale" words inside others are none. */
const alone = new RegExp(String.raw`(?<![\p{L}\p{N}])(?:${talk.source})(?![\p{L}\p{N}])`, 'iu');

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title' && field.role !== 'description') return undefined;
  const severity = field.role === 'title' ? 'risk' : 'tip';
  return onEach((text, report) => {
    const found = alone.exec(text)?.[0];
    if (found !== undefined) report('promotion', severity, field.code, { found });
  });
};

/** A title talks of what the thing is, not of what it costs today; in a description it is only advised against. */
export const promotion: CheckModule<Facts> = {
  issues: {
    promotion: {
      about: 'A text mentions price or delivery.',
      severity: ['blocker', 'risk'],
      on: 'titles and other texts',
      example: { found: 'free shipping' },
      title: (label) => `${label} mentions price or delivery`,
      words: ({ found }, label) => `${label} mentions price or delivery: “${found}”`,
    },
  },
  onValue,
};
