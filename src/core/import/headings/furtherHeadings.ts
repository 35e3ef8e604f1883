/**
 * What headings call the attributes in Danish, Norwegian, Finnish, Czech, Hungarian, Romanian, Greek and Turkish, and what their words
 * are about; read together with the nine languages of `headingLexicon.ts`. Common practice, no source.
 */
export const furtherNames: Readonly<Record<string, string>> = {
  sku: `varenr|varenummer|artikelnr|vare nr|produktnr|best nr|bestillingsnummer|leverandørens varenr|
    tuotenumero|tuotekoodi|tuotenro|tilausnumero|nimikenumero|nimike nro|artikkelinumero|
    kód zboží|kód produktu|kód|katalogové číslo|číslo zboží|číslo položky|objednací číslo|skladové číslo|obj číslo|
    cikkszám|cikk szám|termékkód|rendelési szám|katalógusszám|cikkkód|azonosító|
    cod produs|cod articol|cod|cod intern|cod de produs|număr articol|referință|
    κωδικός|κωδικός προϊόντος|κωδικός είδους|κωδ|κωδ είδους|αριθμός είδους|
    stok kodu|ürün kodu|malzeme kodu|kod|ürün no|stok no|sipariş kodu|model kodu`,
  name: `varebetegnelse|produktnavn|varenavn|navn|betegnelse|vare|varetekst|benevnelse|
    tuotenimi|nimi|nimike|tuote|tuotteen nimi|nimitys|otsikko|
    název|název zboží|název produktu|název položky|pojmenování|zboží|položka|
    megnevezés|termék|terméknév|termék neve|név|cikknév|cikk megnevezése|elnevezés|
    denumire|denumire produs|nume|nume produs|titlu|denumirea produsului|produs|articol|
    ονομασία|όνομα|όνομα προϊόντος|τίτλος|είδος|προϊόν|ονομασία είδους|περιγραφή είδους|
    ürün adı|ürün|adı|ürün ismi|isim|başlık|stok adı|malzeme adı|ürün başlığı`,
  description: `beskrivelse|varebeskrivelse|produktbeskrivelse|lang beskrivelse|produkttekst|tekst|
    kuvaus|tuotekuvaus|pitkä kuvaus|tuoteteksti|tuotteen kuvaus|
    popis|popis zboží|popis produktu|dlouhý popis|podrobný popis|
    leírás|termékleírás|hosszú leírás|részletes leírás|
    descriere|descriere produs|descriere lungă|descriere completă|
    περιγραφή|αναλυτική περιγραφή|περιγραφή προϊόντος|κείμενο|
    açıklama|ürün açıklaması|detaylı açıklama|uzun açıklama|tanım`,
  brand: `vingård|bryggeri|panimo|viinitila|vinařství|pivovar|pincészet|borászat|sörfőzde|cramă|vinărie|berărie|οινοποιείο|ζυθοποιείο|şaraphane|mærke|varemærke|fabrikat|producent|brand|merke|varemerke|produsent|
    merkki|tuotemerkki|brändi|valmistaja|tuottaja|
    značka|výrobce|
    márka|gyártó|márkanév|előállító|
    marcă|brand|producător|fabricant|
    μάρκα|κατασκευαστής|εταιρεία|παραγωγός|
    marka|üretici|üretici firma`,
  category: `varegruppe|kategori|produktgruppe|afdeling|avdeling|varekategori|
    tuoteryhmä|kategoria|tuotekategoria|osasto|ryhmä|luokka|tavararyhmä|
    kategorie|skupina|skupina zboží|zařazení|sortiment|
    kategória|termékcsoport|cikkcsoport|csoport|termékkategória|
    categorie|grupă|grupă de produse|raion|familie|
    κατηγορία|ομάδα|οικογένεια|τμήμα|
    kategori|ürün grubu|grup|reyon|ürün kategorisi`,
  gtin: `stregkode|ean nr|strekkode|strekkode ean|viivakoodi|ean koodi|čárový kód|kód ean|ean kód|vonalkód|ean szám|cod de bare|cod ean|cod bare|
    γραμμωτός κώδικας|barcode ean|κωδικός ean|barkod|barkod no|ean kodu|barkod numarası`,
  mpn: `producentens varenr|fabrikantens varenummer|produsentens varenummer|valmistajan tuotenumero|valmistajan koodi|kód výrobce|
    číslo dílu|gyártói cikkszám|gyártói kód|cod producător|κωδικός κατασκευαστή|üretici kodu|üretici parça no`,
  price: `moc|mc|pris|salgspris|pris inkl moms|udsalgspris|butikspris|pris inkl mva|utsalgspris|pris ink mva|
    hinta|myyntihinta|hinta sis alv|verollinen hinta|ohjehinta sis alv|kuluttajahinta|
    cena|prodejní cena|cena s dph|maloobchodní cena|prodejní cena s dph|mc s dph|moc s dph|
    ár|bruttó ár|eladási ár|fogyasztói ár|kiskereskedelmi ár|bruttó eladási ár|
    preț|preț cu tva|preț de vânzare|preț vânzare|preț final|preț raft|
    τιμή|τιμή με φπα|τιμή πώλησης|λιανική|λιανική τιμή|τιμή λιανικής|τελική τιμή|
    fiyat|satış fiyatı|kdv dahil fiyat|perakende fiyatı|kdv dahil satış fiyatı|etiket fiyatı`,
  priceCurrency: `valuta|valutta|měna|pénznem|deviza|monedă|valută|νόμισμα|para birimi|döviz|döviz cinsi`,
  listPrice: `vejl pris|vejledende pris|vejledende udsalgspris|førpris|normalpris|veiledende pris|listepris|før pris|
    ohjehinta|suositushinta|normaalihinta|listahinta|ovh|alkuperäinen hinta|
    doporučená cena|běžná cena|původní cena|ceníková cena|
    listaár|ajánlott ár|eredeti ár|ajánlott fogyasztói ár|
    preț recomandat|preț de listă|preț întreg|preț vechi|
    προτεινόμενη τιμή|αρχική τιμή|τιμή καταλόγου|παλιά τιμή|
    liste fiyatı|tavsiye edilen fiyat|önerilen fiyat|eski fiyat|piyasa fiyatı`,
  salePrice: `tilbudspris|kampagnepris|kampanjepris|tarjoushinta|alennushinta|kampanjahinta|akční cena|zvýhodněná cena|cena po slevě|
    akciós ár|kedvezményes ár|preț promoțional|preț redus|preț ofertă|τιμή προσφοράς|τιμή έκπτωσης|kampanya fiyatı|
    indirimli fiyat|indirimli satış fiyatı`,
  cost: `voc|voc bez dph|nc bez dph|indkøbspris|kostpris|netto indkøbspris|innkjøpspris|innpris|engrospris|
    ostohinta|hankintahinta|sisäänostohinta|tukkuhinta|
    nákupní cena|pořizovací cena|velkoobchodní cena|nákupní cena bez dph|
    beszerzési ár|nagykereskedelmi ár|nettó beszerzési ár|
    preț de achiziție|preț achiziție|preț de cost|preț intrare|
    τιμή αγοράς|τιμή κόστους|κόστος|χονδρική|χονδρική τιμή|τιμή χονδρικής|
    alış fiyatı|maliyet|maliyet fiyatı|toptan fiyatı`,
  availability: `lagerstatus|tilgængelighed|leveringsstatus|tilgjengelighet|saatavuus|varastotilanne|toimituskyky|dostupnost|
    stav skladu|elérhetőség|készletállapot|disponibilitate|stare stoc|διαθεσιμότητα|stok durumu|bulunabilirlik`,
  availabilityStarts: `dodání od|levering fra|leveres fra|leverbar fra|toimitus|szállítás|szállítható|livrare de la|παράδοση από|teslim tarihi|tilgængelig fra|leveres fra|udgivelsesdato|kan leveres fra|forventet levering|tilgjengelig fra|lanseringsdato|
    saatavilla alkaen|julkaisupäivä|toimitus alkaen|saatavuuspäivä|odotettu saapuminen|
    dostupné od|datum vydání|k dispozici od|naskladnění|očekávané naskladnění|
    elérhető ettől|megjelenés dátuma|várható beérkezés|kapható ettől|
    disponibil din|disponibil de la|data lansării|data disponibilității|
    διαθέσιμο από|ημερομηνία κυκλοφορίας|ημερομηνία διάθεσης|
    satışa çıkış tarihi|stoğa giriş tarihi|çıkış tarihi|temin tarihi`,
  inventoryLevel: `lager|lagerantal|lagerbeholdning|antal på lager|på lager|beholdning|antal|antall på lager|antall|lagersaldo|
    varasto|varastosaldo|saldo|varastossa|varastomäärä|kappalemäärä|määrä|kpl|
    skladem|sklad|skladem ks|počet kusů|množství|ks skladem|stav zásob|zásoba|počet ks|
    raktárkészlet|készlet|mennyiség|darabszám|készleten|db|raktáron|
    stoc|cantitate|stoc disponibil|bucăți|buc|
    απόθεμα|ποσότητα|τεμάχια|διαθέσιμα|υπόλοιπο|στοκ|
    stok|stok miktarı|miktar|adet|stok adedi|mevcut stok`,
  itemCondition: `tilstand|kunto|tuotteen kunto|stav|stav zboží|állapot|stare|stare produs|κατάσταση|ürün durumu|durum`,
  color: `farve|farvenavn|farge|fargenavn|väri|värisävy|sävy|barva|odstín|szín|színe|culoare|nuanță|χρώμα|απόχρωση|renk|rengi`,
  size: `størrelse|str|størrelser|koko|velikost|vel|méret|mărime|marime|măsură|μέγεθος|νούμερο|beden|ölçü|numara`,
  diameter: `diameter|halkaisija|průměr|átmérő|diametru|διάμετρος|çap`,
  material: `materiale|stof|kvalitet|materiaali|kangas|materiál|látka|složení|anyag|anyaga|összetétel|material|compoziție|țesătură|
    υλικό|σύνθεση|ύφασμα|malzeme|materyal|kumaş|içerik`,
  pattern: `mønster|kuvio|kuosi|vzor|minta|model imprimeu|imprimeu|σχέδιο|desen`,
  gender: `køn|kjønn|sukupuoli|pohlaví|nem|gen|φύλο|cinsiyet`,
  ageGroup: `aldersgruppe|ikäryhmä|věková skupina|věková kategorie|korcsoport|korosztály|grupă de vârstă|ηλικιακή ομάδα|yaş grubu`,
  ageRange: `alder|anbefalet alder|anbefalt alder|ikä|ikäsuositus|suositusikä|věk|doporučený věk|életkor|ajánlott életkor|vârstă|
    vârsta recomandată|ηλικία|συνιστώμενη ηλικία|yaş|önerilen yaş|yaş aralığı`,
  weight: `vægt|nettovægt|vekt|nettovekt|egenvekt|paino|nettopaino|hmotnost|čistá hmotnost|váha|súly|tömeg|nettó súly|nettó tömeg|
    greutate|greutate netă|βάρος|καθαρό βάρος|ağırlık|net ağırlık`,
  width: `bredde|leveys|šířka|szélesség|lățime|πλάτος|genişlik`,
  height: `højde|høyde|korkeus|výška|magasság|înălțime|ύψος|yükseklik`,
  depth: `dybde|længde|lengde|syvyys|pituus|hloubka|délka|mélység|hosszúság|adâncime|lungime|βάθος|μήκος|derinlik|uzunluk`,
  volume: `indhold|rumindhold|volumen|innhold|volum|tilavuus|sisältö|vetoisuus|objem|obsah|űrtartalom|térfogat|tartalom|volum|
    capacitate|conținut|όγκος|χωρητικότητα|περιεχόμενο|hacim|kapasite`,
  packageWeight: `bruttovægt|forsendelsesvægt|pakkevægt|bruttovekt|pakkevekt|fraktvekt|bruttopaino|pakkauksen paino|lähetyspaino|
    hrubá hmotnost|hmotnost balení|hmotnost zásilky|bruttó súly|csomagolt súly|greutate brută|greutate colet|greutate pachet|
    μικτό βάρος|βάρος συσκευασίας|brüt ağırlık|paket ağırlığı|kargo ağırlığı`,
  packageWidth: `pakkebredde|pakkauksen leveys|šířka balení|csomag szélessége|lățime colet|lățime pachet|πλάτος συσκευασίας|paket genişliği`,
  packageHeight: `pakkehøjde|pakkehøyde|pakkauksen korkeus|výška balení|csomag magassága|înălțime colet|înălțime pachet|
    ύψος συσκευασίας|paket yüksekliği`,
  packageDepth: `pakkelængde|pakkelengde|pakkauksen pituus|délka balení|csomag hossza|lungime colet|lungime pachet|
    μήκος συσκευασίας|paket uzunluğu`,
  energyClass: `energiklasse|energiamærke|energimerke|energialuokka|energetická třída|energiaosztály|clasă energetică|
    clasa energetică|ενεργειακή κλάση|enerji sınıfı`,
  countryOfOrigin: `oprindelsesland|produktionsland|fremstillet i|opprinnelsesland|produsert i|alkuperämaa|valmistusmaa|
    valmistettu maassa|země původu|země výroby|původ|vyrobeno v|származási ország|származás|gyártási ország|
    țara de origine|țară de origine|țara de fabricație|origine|χώρα προέλευσης|χώρα κατασκευής|προέλευση|
    menşe ülkesi|menşei|menşe|üretim yeri|üretildiği ülke`,
  customsCode: `toldtarif|toldkode|varekode|tolltariffnummer|statistisk varenummer|cn koodi|tullinimike|tullikoodi|celní kód|
    celní sazebník|kód kn|vámtarifaszám|vtsz|cod vamal|cod nc|cod tarifar|δασμολογικός κωδικός|gtip|gtip no|gümrük kodu`,
  author: `forfatter|kirjailija|tekijä|autor|spisovatel|szerző|író|autor carte|συγγραφέας|yazar`,
  url: `produktlink|link til produkt|webadresse|lenke|produktlenke|nettside|linkki|tuotelinkki|verkko osoite|tuotesivu|
    odkaz|adresa stránky|url produktu|hivatkozás|termék link|termék url|legătură|adresă web|link produs|
    σύνδεσμος|διεύθυνση|bağlantı|ürün linki|ürün adresi`,
  image: `billede|billeder|billedlink|bilde|bilder|bildelenke|kuva|kuvat|kuvalinkki|tuotekuva|
    obrázek|obrázky|foto|obrázek url|kép|képek|kép url|fotó|imagine|imagini|poză|poze|
    εικόνα|εικόνες|φωτογραφία|resim|resimler|görsel|görseller|resim url|fotoğraf`,
  minimumOrder: `minimum antal|mindste antal|minste antall|minimitilaus|minimimäärä|minimální množství|minimální odběr|min ks|
    minimális mennyiség|minimális rendelés|cantitate minimă|ελάχιστη ποσότητα|minimum adet|minimum sipariş`,
  maximumOrder: `maksimum antal|maks antall|enimmäismäärä|maximální množství|maximális mennyiség|cantitate maximă|
    μέγιστη ποσότητα|maksimum adet`,
  highlights: `fordele|egenskaber|egenskaper|fordeler|ominaisuudet|edut|vlastnosti|výhody|jellemzők|előnyök|caracteristici|avantaje|
    χαρακτηριστικά|πλεονεκτήματα|özellikler|öne çıkanlar`,
  warning: `advarsel|varoitus|varování|upozornění|figyelmeztetés|avertisment|avertizare|προειδοποίηση|uyarı`,
  batteries: `batteri|batterier|paristot|akut|baterie|elem|elemek|baterii|μπαταρίες|pil|piller`,
  sowBy: `bedst før|best før|parasta ennen|spotřebujte do|datum spotřeby|minőségét megőrzi|lejárat|data expirării|a se consuma până la|
    ανάλωση έως|ημερομηνία λήξης|son kullanma tarihi|skt|tett`,
  shelfLife: `holdbarhed|holdbarhet|säilyvyys|trvanlivost|eltarthatóság|termen de valabilitate|διάρκεια ζωής|raf ömrü`,
  use: `anvendelse|bruk|käyttö|käyttötarkoitus|použití|felhasználás|utilizare|χρήση|kullanım|kullanım alanı`,
  family: `modelnummer|hovedvare|modell|hovedprodukt|malli|päätuote|emotuote|model|hlavní produkt|nadřazený kód|modell|fő termék|
    produs principal|model produs|μοντέλο|κύριο προϊόν|ana ürün|ana ürün kodu|model no`,
};

/** What their words are about, by the meanings of `headingLexicon.ts`, in the forms that headings have. */
export const furtherAbout: Readonly<Record<string, string>> = {
  code: 'číslo čísla kód kódu numero numeron numerot koodi szám száma kódja cod număr numărul κωδικός κωδικοί κωδικό κωδ αριθμός kodu kodları no',
  barcode: 'stregkode strekkode viivakoodi čárový vonalkód vonalkódja γραμμωτός barkod barkodu',
  price:
    'pris prisen priser hinta hinnan hinnat hintaa cena ceny cenu ár ára árak preț prețul pret preturi τιμή τιμές fiyat fiyatı fiyati fiyatları',
  current: 'nuværende nåværende nykyinen aktuální současná jelenlegi curent actual τρέχουσα güncel',
  new: 'ny nye uusi nová nový új nou noi νέα νέο yeni',
  final: 'endelig lopullinen konečná végső final τελική son',
  old: 'tidligere førpris gammel aiempi entinen vanha alkuperäinen původní stará předchozí eredeti régi korábbi vechi anterior inițial αρχική παλιά eski önceki',
  full: 'normal normaali täysi běžná plná teljes normál întreg normală κανονική normal tam',
  recommended:
    'vejl vejledende anbefalet veil veiledende anbefalt suositus ohje ovh doporučená doporučený ajánlott recomandat recomandată προτεινόμενη συνιστώμενη tavsiye önerilen',
  purchase:
    'indkøb indkøbs innkjøp innkjøps osto hankinta nákupní nákup pořizovací beszerzési beszerzés achiziție achiziției cumpărare αγοράς αγορά alış',
  wholesale: 'engros tukku velkoobchodní nagykereskedelmi nagyker angro χονδρική χονδρικής toptan',
  cost: 'kost omkostning kostnad kustannus náklady költség önköltség cost κόστος κόστους maliyet maliyeti',
  discount:
    'rabat rabatt alennus alennettu sleva slevě slevou kedvezmény kedvezményes reducere redus discount έκπτωση έκπτωσης indirim indirimli',
  sale: 'tilbud tilbuds kampagne kampanje tarjous kampanja akční akce akciós akció promoțional ofertă promoție προσφορά προσφοράς kampanya kampanyalı',
  retail:
    'salg salgs udsalg udsalgs butik utsalg utsalgs myynti kuluttaja vähittäis prodejní prodej maloobchodní eladási fogyasztói kiskereskedelmi kisker vânzare raft πώλησης πώληση λιανική λιανικής satış perakende etiket',
  net: 'nettó neto netto ohne bez fără χωρίς hariç ekskl excl',
  gross: 'bruttó brutto brut inkl sis verollinen μικτό brüt dahil',
  tax: 'moms mva alv vero dph daň áfa tva φπα kdv vergi',
  stock:
    'lager lageret beholdning lagerbeholdning varasto varastossa varaston saldo sklad skladem skladu zásoba zásob zásoby készlet készleten raktárkészlet raktáron stoc stocul απόθεμα αποθέματος στοκ stok stoğu',
  warehouse: 'magasin lagerhus varastointi depo raktár depozit αποθήκη αποθήκης depo',
  available:
    'tilgængelig tilgængeligt tilgængelighed tilgjengelig tilgjengelighet saatavilla saatavuus dostupné dostupný dostupnost elérhető elérhetőség disponibil disponibile disponibilitate διαθέσιμο διαθέσιμα διαθεσιμότητα mevcut bulunabilirlik',
  quantity:
    'antal antall stk kpl määrä kappaletta kappalemäärä množství počet kusů kusy ks mennyiség darab darabszám db cantitate cantitatea bucăți buc ποσότητα τεμάχια τεμ miktar miktarı adet adedi',
  status: 'tila tilanne stav állapot állapota stare starea κατάσταση durum durumu',
  name: 'navn navnet betegnelse varebetegnelse benevnelse nimi nimen nimitys nimike tuotenimi otsikko název názvu pojmenování neve név megnevezés megnevezése denumire denumirea nume numele titlu όνομα ονομασία τίτλος adı ismi isim başlık başlığı',
  description:
    'beskrivelse kuvaus kuvausteksti popis popisek leírás leírása descriere descrierea περιγραφή açıklama açıklaması tanım',
  text: 'tekst tekstin teksti szöveg text κείμενο metin',
  long: 'lang pitkä dlouhý podrobný hosszú részletes lung lungă completă αναλυτική uzun detaylı',
  short: 'kort lyhyt krátký stručný rövid scurt scurtă σύντομη kısa',
  image:
    'billede billeder billedlink bilde bilder kuva kuvan kuvat obrázek obrázku obrázky fotografie kép képek képe fotó imagine imaginea imagini poză poze εικόνα εικόνας εικόνες φωτογραφία resim resmi resimler görsel görseli görseller fotoğraf',
  link: 'lenke link linkki odkaz hivatkozás legătură adresă σύνδεσμος διεύθυνση bağlantı linki adresi osoite adresa url',
  page: 'nettside sivu sivun tuotesivu stránka stránky oldal pagină σελίδα sayfa sayfası',
  colour:
    'farve farven farvenavn farge fargen väri värin värisävy sävy barva barvy odstín szín színe culoare culoarea nuanță χρώμα χρώματος απόχρωση renk rengi',
  size: 'størrelse størrelser str koko koot velikost velikosti méret mérete mărime mărimea marime măsură μέγεθος νούμερο beden bedeni ölçü numara',
  material:
    'materiale materialet stof kvalitet materiaali kangas materiál materiálu látka anyag anyaga material țesătură υλικό υλικού ύφασμα malzeme malzemesi materyal kumaş',
  composition:
    'sammensætning sammensetning koostumus složení összetétel összetétele compoziție σύνθεση içerik bileşim',
  gender: 'køn kjønn sukupuoli pohlaví nem gen φύλο cinsiyet',
  weight:
    'vægt vægten vekt vekten paino painon hmotnost váha súly súlya tömeg tömege greutate greutatea βάρος ağırlık ağırlığı gramaj',
  width:
    'bredde bredden leveys leveyden šířka šířky szélesség szélessége lățime lățimea πλάτος genişlik genişliği',
  height:
    'højde højden høyde høyden korkeus výška výšky magasság magassága înălțime înălțimea ύψος yükseklik yüksekliği',
  depth: 'dybde dybden syvyys hloubka mélység mélysége adâncime βάθος derinlik derinliği',
  length: 'længde lengde pituus délka hossz hossza hosszúság lungime μήκος uzunluk uzunluğu',
  package:
    'pakke pakken pakkens forsendelse forsendelses emballage kolli frakt forpakning pakkaus pakkauksen paketti lähetys toimitus balení obal zásilky balíku csomag csomagolás csomagolt szállítási colet pachet ambalaj livrare συσκευασία συσκευασίας δέμα αποστολής paket paketi ambalaj kargo koli',
  country: 'land landet maa maan země země zemi ország országa țara țară χώρα ülke ülkesi',
  origin:
    'oprindelse oprindelses opprinnelse opprinnelses alkuperä původ původu származás származási origine originea προέλευση προέλευσης καταγωγή menşe menşei köken',
  manufacture:
    'fremstillet fremstilling produceret produsert valmistus valmistettu výroby výroba vyrobeno gyártási gyártva gyártás fabricație fabricat κατασκευής κατασκευή üretim üretildiği',
  maker:
    'producent producentens fabrikant produsent produsentens valmistaja valmistajan výrobce výrobcem gyártó gyártói gyártója előállító producător producătorul fabricant κατασκευαστής κατασκευαστή παραγωγός üretici üreticinin firma',
  supplier:
    'leverandør leverandørens toimittaja toimittajan dodavatel dodavatele szállító beszállító furnizor furnizorul προμηθευτής προμηθευτή tedarikçi satıcı',
  brand:
    'mærke varemærke merke varemerke merkki tuotemerkki brändi značka značky márka márkája márkanév marcă μάρκα marka markası',
  category:
    'kategori afdeling avdeling varegruppe kategoria tuotekategoria osasto kategorie zařazení kategória kategóriája categorie categoria κατηγορία κατηγορίας kategorisi reyon',
  group:
    'gruppe gruppen ryhmä ryhmän tuoteryhmä skupina skupiny csoport csoportja grupă grup ομάδα οικογένεια grubu',
  condition: 'tilstand kunto állapota',
  reference: 'referanse viite viitenumero reference hivatkozási referință αναφορά referans',
  from: 'fra alkaen od ettől din από itibaren',
  start: 'start begynder alku alkaa začátek kezdete început έναρξη başlangıç başlangıcı',
  end: 'slut slutter loppuu päättyy konec vége sfârșit λήξη bitiş bitişi',
  date: 'dato datoen päivä päivämäärä pvm datum dátum dátuma data ημερομηνία tarih tarihi',
  release:
    'udgivelse udgivelses lansering lanserings julkaisu vydání vychází megjelenés megjelenik apare släpps utkommer udkommer utgis ilmestyy κυκλοφορεί lansare lansării κυκλοφορίας çıkış',
  author: 'forfatter kirjailija tekijä autor szerző συγγραφέας yazar yazarı',
  own: 'egen eget oma sisäinen vlastní interní saját belső intern propriu εσωτερικός dahili',
  customs: 'told toldtarif toll tulli celní vám vámtarifa vamal δασμολογικός gümrük gtip',
  diameter: 'diameter halkaisija průměr átmérő átmérője diametru διάμετρος çap çapı',
  volume:
    'indhold rumindhold innhold volum tilavuus sisältö objem obsah űrtartalom térfogat tartalom volum capacitate conținut όγκος χωρητικότητα περιεχόμενο hacim hacmi kapasite',
  age: 'alder ikä iän věk életkor vârstă vârsta ηλικία yaş yaşı',
  minimum:
    'mindste minimum minste vähimmäis minimi minimální legkisebb minimális minimă minim ελάχιστη ελάχιστο asgari',
  maximum:
    'største maksimum maks enimmäis maksimi maximální legnagyobb maximális maximă maxim μέγιστη μέγιστο azami',
  used: 'brugt brukt käytetty použité bazar használt folosit μεταχειρισμένο',
  order: 'bestilling ordre tilaus objednávka objednací rendelés rendelési comandă παραγγελία sipariş',
  warning: 'advarsel varoitus varování upozornění figyelmeztetés avertisment προειδοποίηση uyarı',
  safety: 'sikkerhed sikkerhet turvallisuus bezpečnost biztonság siguranță ασφάλεια güvenlik',
  expiry:
    'holdbar udløb utløp parasta vanhenee spotřeby expirace lejárat lejárati expirare expirării λήξης kullanma',
  energy: 'energi energia energetická energetický energetică ενεργειακή enerji',
  class: 'klasse luokka třída osztály clasă κλάση sınıf sınıfı',
  pattern: 'mønster kuvio kuosi vzor minta mintája imprimeu σχέδιο desen deseni',
  type: 'art slags tyyppi laji typ druh típus fajta tipul τύπος tür tip çeşit',
};

/** Words of headings that say nothing by themselves. */
export const furtherIdle =
  'vare varen varens varer produkt produktet produkter tuote tuotteen tuotteet zboží produktu položka položky termék termékek cikk cikkek produs produsului produse articol προϊόν προϊόντος προϊόντα είδος είδους ürün ürünün ürünler til for af på og i ja v ve pro s se a az és cu la și pe με για του της και ile için mål dimensjon mitat mitta rozměr rozměry dimenziók dimensiuni διαστάσεις boyut boyutlar hoved pää hlavní fő principal principală κύρια ana';

/** Beginnings of words that make a heading be about something beside the item. */
export const furtherAside = [
  'fragtpris|fragtomkostning|fraktpris|toimituskulu\\w*|cena dopravy|postovne|szallitasi dij|cost transport|cost livrare|μεταφορικα|kargo ucreti',
  'mindste\\w*|minimi\\w*|halytysraja|varoitusraja|minimalni|minimalis|minim[aă]|ελαχιστ\\p{L}*|asgari|kritik',
  'farvekode|fargekode|varikoodi|kod barvy|szinkod|cod culoare|κωδικος χρωματος|renk kodu|lagerplads|hyllypaikka|varastopaikka|umisteni|tarolohely|raft depozit|raf no|θεση',
  'oprettet|opprettet|luotu|vytvoreno|letrehozva|creat la|olusturma|δημιουργηθηκε|andret|endret|muokattu|zmeneno|modositva|modificat|guncelleme',
  'asiakas|zakaznik|vevo|client|πελατης|musteri|puhelin|τηλεφωνο|telefonszam',
  'laatikko|krabice|doboz|cutie|κιβωτιο|kutu ici|koli ici|palle|lava|paleta|raklap|palet|παλετα',
] as const;
