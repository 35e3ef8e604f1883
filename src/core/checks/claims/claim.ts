import { memoizedByText } from '../../text/remembering';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';
import { phraseFinder } from './phrases';

const kinds = {
  health: 'promises to heal or to prevent a disease',
  biocide: 'promises to kill germs or pests',
  superlative: 'claims to be the best of all',
  guarantee: 'promises a guarantee',
} as const;
type Kind = keyof typeof kinds;

interface Facts {
  claim: { found: string; kind: Kind };
}

/**
 * What authorities and channels ask proof of, in nine languages. Health: Regulation (EC) 1924/2006, articles 10 and 14, and Directive
 * 2001/83/EC, article 1 (2). Biocides: Regulation (EU) 528/2012, article 72. Superlatives and guarantees: Directive 2005/29/EC, annex I.
 * The words are common practice.
 */
const words: Readonly<Record<Kind, readonly string[]>> = {
  health: [
    '(?:cures?|heals?|prevents?|treats?|fights?) (?:cancer|diabetes|arthritis|asthma|depression|covid|eczema|psoriasis|migraines?|insomnia|infections?|diseases?|high blood pressure)',
    '(?:boosts?|strengthens?) (?:your|the) immune system',
    '(?:relieves?|against) (?:back|joint|chronic) pain',
    '(?:heilt|lindert|bekämpft|verhindert|hilft gegen|gegen) (?:krebs|diabetes|arthritis|arthrose|asthma|depressionen|neurodermitis|schuppenflechte|migräne|schlaflosigkeit|rückenschmerzen|gelenkschmerzen|entzündungen)',
    'stärkt das immunsystem',
    "(?:guérit|soigne|soulage|prévient|combat) (?:le cancer|le diabète|l[’']arthrose|l[’']asthme|l[’']eczéma|le psoriasis|la migraine|l[’']insomnie|les douleurs|les infections)",
    'renforce le système immunitaire',
    '(?:cura|previene|alivia|combate) (?:el cáncer|la diabetes|la artritis|la artrosis|el asma|el eccema|la psoriasis|la migraña|el insomnio|el dolor|las infecciones)',
    'refuerza el sistema inmunitario',
    "(?:cura|previene|allevia|combatte) (?:il cancro|il diabete|l[’']artrite|l[’']artrosi|l[’']asma|l[’']eczema|la psoriasi|l[’']emicrania|l[’']insonnia|il dolore|le infezioni)",
    'rafforza il sistema immunitario',
    '(?:geneest|verlicht|voorkomt|bestrijdt) (?:kanker|diabetes|artritis|artrose|astma|eczeem|psoriasis|migraine|slapeloosheid|rugpijn|ontstekingen)',
    'versterkt het immuunsysteem',
    '(?:leczy|łagodzi|zapobiega|zwalcza) (?:raka|cukrzyc[ęy]|artretyzm|astmę|egzemę|łuszczycę|migrenę|bezsenność|bóle?|infekcje|infekcjom)',
    'wzmacnia (?:układ odpornościowy|odporność)',
    '(?:cura|previne|alivia|combate) (?:o cancro|o câncer|a diabetes|a artrite|a artrose|a asma|o eczema|a psoríase|a enxaqueca|a insónia|a dor|as infeções)',
    'reforça o sistema imunitário',
    '(?:botar|lindrar|förebygger|bekämpar) (?:cancer|diabetes|artrit|artros|astma|eksem|psoriasis|migrän|sömnlöshet|värk|infektioner)',
    'stärker immunförsvaret',
  ],
  biocide: [
    String.raw`kills? (?:\d\d(?:[.,]\d+)? ?% of )?(?:all )?(?:germs|bacteria|viruses|mites|mould|mold|fleas|ticks)`,
    '(?:anti-?bacterial|antimicrobial|antiviral) (?:effect|coating|protection|action)',
    String.raw`tötet (?:\d\d(?:[.,]\d+)? ?% (?:der|aller) )?(?:keime|bakterien|viren|milben|schimmel|flöhe|zecken)`,
    '(?:antibakterielle|antimikrobielle|keimtötende|desinfizierende) (?:wirkung|beschichtung)',
    String.raw`(?:tue|élimine) (?:\d\d(?:[.,]\d+)? ?% des |les )(?:germes|bactéries|virus|acariens|moisissures|puces)`,
    'action (?:antibactérienne|antimicrobienne|désinfectante)',
    String.raw`(?:mata|elimina) (?:el \d\d(?:[.,]\d+)? ?% de )?(?:las? |los? )?(?:gérmenes|bacterias|virus|ácaros|moho|pulgas)`,
    'acción (?:antibacteriana|antimicrobiana|desinfectante)',
    String.raw`(?:uccide|elimina) (?:il \d\d(?:[.,]\d+)? ?% (?:dei |di ))?(?:i |gli )?(?:germi|batteri|virus|acari|muffe|pulci)`,
    'azione (?:antibatterica|antimicrobica|disinfettante)',
    String.raw`doodt (?:\d\d(?:[.,]\d+)? ?% van (?:de|alle) )?(?:kiemen|bacteriën|virussen|mijten|schimmels|vlooien|teken)`,
    '(?:antibacteriële|ontsmettende) (?:werking|coating)',
    String.raw`zabija (?:\d\d(?:[.,]\d+)? ?% )?(?:zarazki|zarazków|bakterie|bakterii|wirusy|wirusów|roztocza|pleśń|pchły|kleszcze)`,
    'działanie (?:antybakteryjne|dezynfekujące)',
    String.raw`mata (?:\d\d(?:[.,]\d+)? ?% (?:dos|das) )?(?:germes|germens|bactérias|vírus|ácaros|bolor|pulgas)`,
    'ação (?:antibacteriana|desinfetante)',
    String.raw`dödar (?:\d\d(?:[.,]\d+)? ?% av (?:alla )?)?(?:bakterier|virus|kvalster|mögel|loppor|fästingar)`,
    'antibakteriell (?:effekt|verkan|beläggning)',
  ],
  superlative: [
    "(?:world|europe)[’']?s (?:best|no\\.? ?1|number one|finest)",
    'best (?:in|on) the (?:world|market)',
    '(?:no\\.? ?1|number one) (?:in|on) (?:the )?(?:world|market|europe|germany)',
    '(?:das|der|die) beste[nrs]? (?:der welt|am markt|auf dem markt)',
    'welt(?:weit )?beste[nrs]?',
    '(?:die )?nr\\. ?1 (?:in|auf) (?:deutschland|europa|der welt|dem markt)',
    '(?:le|la) meilleure? (?:du monde|du marché)',
    'n° ?1 (?:mondial|en france|du marché)',
    '(?:el|la) mejor (?:del mundo|del mercado)',
    'n[.º°]* ?1 (?:en españa|del mundo|del mercado)',
    '(?:il|la) migliore (?:al mondo|sul mercato|del mercato)',
    '(?:de|het) beste (?:ter wereld|van de wereld|op de markt)',
    '(?:najlepsz[yae]) (?:na świecie|na rynku)',
    '(?:o|a) melhor (?:do mundo|do mercado)',
    '(?:världens|marknadens) bästa',
  ],
  guarantee: [
    '100 ?% (?:satisfaction )?guarantee[d]?',
    '(?:lifetime|life-?long) (?:guarantee|warranty)',
    'money[- ]back guarantee',
    'lebenslange garantie',
    '(?:geld[- ]zurück|zufriedenheits)-?garantie',
    'garantie à vie',
    'satisfait ou remboursé',
    'garantía (?:de por vida|total)',
    'satisfacción garantizada',
    'garanzia a vita',
    'soddisfatti o rimborsati',
    'levenslange garantie',
    'niet[- ]goed[,-]? ?geld[- ]terug',
    'dożywotnia gwarancja',
    'gwarancja zwrotu pieniędzy',
    'garantia vitalícia',
    'satisfação garantida',
    'livstids garanti',
    'nöjd[- ]kund[- ]garanti',
  ],
};

const claims = (Object.keys(kinds) as Kind[]).map((kind) => [kind, phraseFinder(words[kind])] as const);
const any = phraseFinder(Object.values(words).flat());
const none: readonly (readonly [Kind, string])[] = [];
const claimsIn = (text: string): readonly (readonly [Kind, string])[] =>
  any(text) === undefined
    ? none
    : claims.flatMap(([kind, find]) => {
        const found = find(text);
        return found === undefined ? [] : [[kind, found] as const];
      });

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title' && field.role !== 'description') return undefined;
  // Variants share their descriptions, and hardly ever a title.
  const look = field.role === 'title' ? claimsIn : memoizedByText(claimsIn);
  return onEach((text, report) => {
    for (const [kind, found] of look(text))
      report('claim', 'risk', field.code, { found: found.slice(0, 80), kind });
  });
};

/** Claims that need proof: of healing, of killing germs, of being the best, of a guarantee. */
export const claim: CheckModule<Facts> = {
  issues: {
    claim: {
      about: 'A claim of healing, of killing germs or pests, of being the best, or a guarantee.',
      severity: ['risk'],
      on: 'titles and descriptions',
      source: 'Regulation (EC) 1924/2006; Regulation (EU) 528/2012; Directive 2005/29/EC',
      example: { found: 'kills 99.9 % of bacteria', kind: 'biocide' },
      title: (label) => `${label} makes a claim that needs proof`,
      words: ({ found, kind }, label) => `${label} ${kinds[kind]}: “${found}”`,
    },
  },
  onValue,
};
