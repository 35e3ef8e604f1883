import { readLanguages } from '../formatting/readLanguages';
import { fold } from '../text/folding';

/** The codes of ISO 3166-1 in force, alpha-2 with alpha-3 behind it. Held against Debian's `iso-codes` by a test. */
const inForce: ReadonlyMap<string, string> = new Map(
  `
  ADAND AEARE AFAFG AGATG AIAIA ALALB AMARM AOAGO AQATA ARARG ASASM ATAUT AUAUS AWABW AXALA AZAZE BABIH BBBRB BDBGD
  BEBEL BFBFA BGBGR BHBHR BIBDI BJBEN BLBLM BMBMU BNBRN BOBOL BQBES BRBRA BSBHS BTBTN BVBVT BWBWA BYBLR BZBLZ CACAN
  CCCCK CDCOD CFCAF CGCOG CHCHE CICIV CKCOK CLCHL CMCMR CNCHN COCOL CRCRI CUCUB CVCPV CWCUW CXCXR CYCYP CZCZE DEDEU
  DJDJI DKDNK DMDMA DODOM DZDZA ECECU EEEST EGEGY EHESH ERERI ESESP ETETH FIFIN FJFJI FKFLK FMFSM FOFRO FRFRA GAGAB
  GBGBR GDGRD GEGEO GFGUF GGGGY GHGHA GIGIB GLGRL GMGMB GNGIN GPGLP GQGNQ GRGRC GSSGS GTGTM GUGUM GWGNB GYGUY HKHKG
  HMHMD HNHND HRHRV HTHTI HUHUN IDIDN IEIRL ILISR IMIMN ININD IOIOT IQIRQ IRIRN ISISL ITITA JEJEY JMJAM JOJOR JPJPN
  KEKEN KGKGZ KHKHM KIKIR KMCOM KNKNA KPPRK KRKOR KWKWT KYCYM KZKAZ LALAO LBLBN LCLCA LILIE LKLKA LRLBR LSLSO LTLTU
  LULUX LVLVA LYLBY MAMAR MCMCO MDMDA MEMNE MFMAF MGMDG MHMHL MKMKD MLMLI MMMMR MNMNG MOMAC MPMNP MQMTQ MRMRT MSMSR
  MTMLT MUMUS MVMDV MWMWI MXMEX MYMYS MZMOZ NANAM NCNCL NENER NFNFK NGNGA NINIC NLNLD NONOR NPNPL NRNRU NUNIU NZNZL
  OMOMN PAPAN PEPER PFPYF PGPNG PHPHL PKPAK PLPOL PMSPM PNPCN PRPRI PSPSE PTPRT PWPLW PYPRY QAQAT REREU ROROU RSSRB
  RURUS RWRWA SASAU SBSLB SCSYC SDSDN SESWE SGSGP SHSHN SISVN SJSJM SKSVK SLSLE SMSMR SNSEN SOSOM SRSUR SSSSD STSTP
  SVSLV SXSXM SYSYR SZSWZ TCTCA TDTCD TFATF TGTGO THTHA TJTJK TKTKL TLTLS TMTKM TNTUN TOTON TRTUR TTTTO TVTUV TWTWN
  TZTZA UAUKR UGUGA UMUMI USUSA UYURY UZUZB VAVAT VCVCT VEVEN VGVGB VIVIR VNVNM VUVUT WFWLF WSWSM YEYEM YTMYT ZAZAF
  ZMZMB ZWZWE
  `
    .trim()
    .split(/\s+/)
    .map((pair) => [pair.slice(0, 2), pair.slice(2)]),
);

const byAlpha3: ReadonlyMap<string, string> = new Map(
  [...inForce].map(([alpha2, alpha3]) => [alpha3, alpha2]),
);

/**
 * Names that CLDR does not give: parts of a country that goods are marked with, former names, names of the standard, and
 * abbreviations. Common practice, no source; the names of the standard are held against Debian's `iso-codes`.
 */
const furtherNames: Readonly<Record<string, string>> = {
  AE: 'UAE, U.A.E., Emirates, SAE, Birleşik Arap Emirlikleri, BAE',
  BA: 'Bosnia',
  BN: 'Brunei Darussalam',
  BO: 'Plurinational State of Bolivia, Bolivia Plurinational State of',
  BQ: 'Bonaire Sint Eustatius and Saba',
  BY: 'Belorussia, Byelorussia, Weissrussland, Biélorussie, Wit-Rusland, Belarus, Bělorusko',
  CD: 'DR Congo, D.R. Congo, DRC, Democratic Republic of the Congo, Congo The Democratic Republic of the',
  CG: 'Congo, Republic of the Congo',
  CI: 'Ivory Coast, Elfenbeinküste, Costa de Marfil, Ivoorkust',
  CN: 'PRC, P.R.C., PR China, P.R. China, VR China, Mainland China, RPC, Čínská lidová republika, ČLR, Kinai Népköztársaság, Kiinan kansantasavalta, Folkerepublikken Kina, Republica Populară Chineză, Çin Halk Cumhuriyeti',
  CV: 'Cabo Verde',
  CZ: 'Czech Republic, Tschechische Republik, République tchèque, República Checa, Repubblica Ceca, Tsjechische Republiek, Republika Czeska, Tjeckiska republiken, Česká republika, Česko, ČR, Česká rep., Den Tjekkiske Republik, Csehország, Republica Cehă, Çek Cumhuriyeti',
  DE: 'BRD, FRG, Federal Republic of Germany, West Germany, Bundesrepublik Deutschland, NSR, Spolková republika Německo, SRN, NSZK',
  FK: 'Falkland Islands Malvinas',
  FM: 'Federated States of Micronesia, Micronesia Federated States of',
  GB: 'VK, R.-U., Wlk. Brytania, W. Brytania, UK, U.K., G.B., Great Britain, Britain, England, Scotland, Wales, Northern Ireland, United Kingdom of Great Britain and Northern Ireland, Grossbritannien, Schottland, Grande-Bretagne, Angleterre, Écosse, Gran Bretaña, Inglaterra, Escocia, Gran Bretagna, Inghilterra, Groot-Brittannië, Engeland, Wielka Brytania, Anglia, Grã-Bretanha, Storbritannien, Velká Británie, Anglie, Nagy-Britannia, Marea Britanie, Englanti, Iso-Britannia, Storbritannia, Αγγλία, Μεγάλη Βρετανία, İngiltere, Büyük Britanya',
  HK: 'Hong Kong',
  HM: 'Heard Island and McDonald Islands',
  IE: 'Republic of Ireland, Eire, Irish Republic',
  IR: 'Islamic Republic of Iran, Iran Islamic Republic of, Persia',
  KP: "North Korea, DPRK, Democratic People's Republic of Korea, Korea Democratic People's Republic of",
  KR: 'South Korea, Republic of Korea, Korea Republic of, R.O.K., ROK, Korea South, Jižní Korea, Dél-Korea, Etelä-Korea, Coreea de Sud, Νότια Κορέα, Güney Kore',
  LA: "Lao People's Democratic Republic, Lao",
  MD: 'Republic of Moldova, Moldova Republic of',
  MF: 'Saint Martin French part',
  MK: 'Macedonia, FYROM, Republic of North Macedonia',
  MM: 'Burma, Myanmar',
  MO: 'Macau, Macao',
  NL: 'Holland, The Netherlands, Hollande, Holanda, Olanda, Holandia, Holandsko, Hollandia, Ολλανδία, Alankomaat, Nederlandene',
  PS: 'Palestine, State of Palestine, Palestine State of',
  RU: 'Russian Federation, Russische Föderation, Fédération de Russie',
  SH: 'Saint Helena Ascension and Tristan da Cunha',
  SK: 'Slovak Republic, Slovakische Republik',
  SX: 'Sint Maarten Dutch part',
  SY: 'Syrian Arab Republic',
  SZ: 'Swaziland',
  TL: 'East Timor',
  TR: 'Turkey, Türkiye, Turkiye, Republic of Türkiye, Turecko, Törökország, Turkki, Turcia, Τουρκία',
  TW: 'Taiwan R.O.C., Republic of China, Taiwan Province of China, Chinese Taipei',
  TZ: 'United Republic of Tanzania, Tanzania United Republic of',
  UM: 'United States Minor Outlying Islands',
  US: 'USA, U.S., U.S.A., United States of America, America, Vereinigte Staaten von Amerika, États-Unis d’Amérique, EE. UU., EEUU, Estados Unidos de América, Stati Uniti d’America, VS, ABD, A.B.D., Spojené státy americké, SUA, Statele Unite ale Americii, ΗΠΑ, Η.Π.Α., Amerikai Egyesült Államok, Amerikas forenede stater',
  VA: 'Vatican, Holy See, Holy See Vatican City State',
  VE: 'Bolivarian Republic of Venezuela, Venezuela Bolivarian Republic of',
  VG: 'British Virgin Islands, Virgin Islands British',
  VI: 'US Virgin Islands, Virgin Islands U.S.',
  VN: 'Viet Nam, Vietnam',
};

const displayNames = new Map<string, Intl.DisplayNames>();

/** Making one takes milliseconds, so each is made once. */
function namesIn(language: string): Intl.DisplayNames {
  const known = displayNames.get(language);
  if (known) return known;
  const created = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
  displayNames.set(language, created);
  return created;
}

/** A name as it is looked up: folded, without articles and conjunctions, "St." written out. */
const keyOf = (name: string): string =>
  fold(name)
    .split(' ')
    .filter((word) => word !== 'and' && word !== 'the')
    .map((word) => (word === 'st' ? 'saint' : word))
    .join(' ');

let codes: ReadonlyMap<string, string> | undefined;

/** Every country's names, folded, with its code: CLDR territory names in the languages read, and {@link furtherNames}. */
function codesByName(): ReadonlyMap<string, string> {
  if (codes) return codes;
  const found = new Map<string, string>();
  const add = (name: string | undefined, code: string) => {
    if (!name) return;
    const key = keyOf(name);
    // “Rép. tchèque”, “Dem. Rep. Congo”.
    const short = key.replace(/\b(rep|dem|fed)(?:u|o|e|k)\p{L}+/gu, '$1');
    for (const one of [key, short]) if (!found.has(one)) found.set(one, code);
  };
  for (const [code, list] of Object.entries(furtherNames))
    for (const name of list.split(', ')) add(name, code);
  for (const language of readLanguages) {
    const names = namesIn(language);
    for (const code of inForce.keys()) add(names.of(code), code);
  }
  codes = found;
  return found;
}

/** Whether a text is an alpha-2 code of ISO 3166-1 that is in force. */
export const isCountryCode = (text: string): boolean => inForce.has(text);

/** A country's name for its ISO 3166-1 code in force; the text itself where it is no such code. */
export function countryName(code: string, language = 'en'): string {
  return inForce.has(code) ? (namesIn(language).of(code) ?? code) : code;
}

/**
 * The ISO 3166-1 alpha-2 code in force of a country given by its name in one of nine languages, or by its alpha-2 or alpha-3
 * code; undefined where the text names none.
 */
export function countryCode(text: string): string | undefined {
  const code = text.trim().toUpperCase();
  return inForce.has(code) ? code : (byAlpha3.get(code) ?? codesByName().get(keyOf(text)));
}

/**
 * The code in force for one that the standard has withdrawn: that of the country which CLDR says the withdrawn code means
 * (DD is Germany, BU is Myanmar). Undefined for a code in force and for what is no code.
 */
export function replacedCountryCode(code: string): string | undefined {
  if (!/^[A-Z]{2}$/.test(code) || inForce.has(code)) return undefined;
  for (const language of readLanguages) {
    const found = countryCode(namesIn(language).of(code) ?? '');
    if (found) return found;
  }
  return undefined;
}
