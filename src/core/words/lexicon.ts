import { fold } from '../text/folding';

/**
 * Words of a shop for home and garden that mean the same, in English, German, Spanish, French, Italian, Dutch, Polish,
 * Portuguese and Swedish: what a merchant calls a
 * category and what a channel calls it are seldom of one language. A line is one meaning. From memory, no source.
 */
const meanings = `
pot|pots|planter|flowerpot|topf|töpfe|blumentopf|pflanztopf|übertopf|kübel|maceta|macetero|tiesto|jardinera|vaso|vasi|fioriera|bloempot|plantenbak|doniczka|doniczki|donica|floreira|kruka|krukor|blomkruka
lamp|lamps|light|lights|lighting|lampe|lampen|leuchte|leuchten|licht|beleuchtung|lámpara|luz|luces|iluminación|luminaire|éclairage|lampada|lampade|luce|luci|illuminazione|verlichting|oświetlenie|światło|luminária|lâmpada|lampor|belysning|ljus
glove|gloves|handschuh|handschuhe|guante|guantes|gant|gants|guanto|guanti|handschoen|handschoenen|rękawica|rękawice|rękawiczki|luva|luvas|handske|handskar
apron|aprons|schürze|schürzen|delantal|delantales|tablier|tabliers|grembiule|grembiuli|schort|schorten|fartuch|fartuchy|avental|aventais|förkläde|förkläden
seed|seeds|samen|saatgut|saat|semilla|semillas|graine|graines|semence|seme|semi|sementi|zaad|zaden|nasiono|nasiona|semente|sementes|frö|frön|fröer
book|books|buch|bücher|libro|libros|livre|livres|libri|boek|boeken|książka|książki|livro|livros|bok|böcker
can|watering|gießkanne|gießkannen|kanne|regadera|regaderas|arrosoir|arrosoirs|annaffiatoio|annaffiatoi|gieter|gieters|konewka|konewki|regador|regadores|vattenkanna|vattenkannor
food|feed|fertiliser|fertilizer|dünger|düngemittel|abono|abonos|fertilizante|engrais|concime|concimi|fertilizzante|meststof|mest|plantenvoeding|nawóz|nawozy|adubo|adubos|gödsel|näring|växtnäring
liquid|fluid|flüssig|flüssigdünger|líquido|liquide|liquido|vloeibaar|vloeibare|płynny|flytande
meter|meters|tester|testers|gauge|messgerät|medidor|medidores|mesureur|misuratore|meetapparaat|miernik|mierniki|mätare
moisture|humidity|feuchtigkeit|feuchte|bodenfeuchte|humedad|humidité|umidità|vocht|vochtigheid|wilgotność|wilgotności|umidade|humidade|fukt|fuktighet
kit|kits|set|sets|juego|coffret|bausatz|zestaw|zestawy|conjunto|sats|satser
child|children|kids|kid|kind|kinder|niño|niños|infantil|infantiles|enfant|enfants|bambino|bambini|kinderen|dziecko|dzieci|dla dzieci|criança|crianças|barn
toy|toys|spielzeug|juguete|juguetes|jouet|jouets|giocattolo|giocattoli|speelgoed|zabawka|zabawki|brinquedo|brinquedos|leksak|leksaker
calendar|calendars|planner|planners|kalender|planer|calendario|calendarios|planificador|planificadores|calendrier|agenda|calendari|kalenders|kalendarz|kalendarze|calendário|calendários|kalendrar
printable|print|printables|druckvorlage|vorlage|ausdrucken|imprimible|imprimibles|imprimable|stampabile|afdrukbaar|do druku|imprimível|utskrivbar
shelf|shelves|shelving|rack|racks|regal|regale|estante|estantes|estantería|étagère|étagères|scaffale|scaffali|mensola|mensole|plank|planken|rek|rekken|półka|półki|regał|prateleira|prateleiras|hylla|hyllor
tray|trays|tablett|schale|schalen|bandeja|bandejas|plateau|vassoio|vassoi|dienblad|schaal|taca|tace|bricka|brickor|fat
saucer|saucers|untersetzer|platillo|platillos|plato|soucoupe|sottovaso|sottovasi|schotel|schotels|onderzetter|podstawka|podstawki|pires|pratinho|krukfat
cloche|cloches|dome|domes|glocke|glocken|haube|campana|campanas|bell|stolp|klosz|klosze|campânula|kupa|kupor
greenhouse|greenhouses|gewächshaus|gewächshäuser|invernadero|invernaderos|serre|serra|kas|kassen|szklarnia|szklarnie|estufa|estufas|växthus
soil|substrate|compost|erde|substrat|tierra|sustrato|terre|terreau|terriccio|terra|potgrond|aarde|ziemia|podłoże|substrato|jord|planteringsjord
tool|tools|werkzeug|werkzeuge|gartenwerkzeug|herramienta|herramientas|outil|outils|attrezzo|attrezzi|utensile|gereedschap|narzędzie|narzędzia|ferramenta|ferramentas|verktyg|redskap
plant|plants|pflanze|pflanzen|planta|plantas|plante|plantes|pianta|piante|planten|roślina|rośliny|växt|växter
garden|gardening|garten|gärtnern|gartenarbeit|jardín|jardinería|jardin|jardinage|giardino|giardinaggio|tuin|tuinieren|ogród|ogrodowe|ogrodowy|ogrodnicze|jardim|jardinagem|trädgård|trädgårds
growing|grow|cultivation|anbau|anzucht|cultivo|culture|coltivazione|kweek|kweken|uprawa|odling
herb|herbs|kräuter|kraut|hierba|hierbas|aromáticas|herbe|herbes|erba|erbe|aromatiche|kruid|kruiden|zioło|zioła|erva|ervas|ört|örter|kryddväxter
vegetable|vegetables|gemüse|hortaliza|hortalizas|verdura|légume|légumes|ortaggio|ortaggi|verdure|groente|groenten|warzywo|warzywa|warzyw|legume|legumes|hortaliça|grönsak|grönsaker
flower|flowers|blume|blumen|blüte|flor|flores|fleur|fleurs|fiore|fiori|bloem|bloemen|kwiat|kwiaty|blomma|blommor
bulb|bulbs|zwiebel|zwiebeln|bulbo|bulbos|bulbe|bulbes|bulbi|bloembol|bloembollen|cebulka|cebulki|bolbo|bolbos|lök|lökar|blomsterlök
fruit|fruits|obst|frucht|früchte|fruta|frutas|frutta|owoc|owoce|frukt|frukter
wrap|wrapping|geschenkpapier|verpackung|papel|envoltorio|emballage|carta regalo|inpakpapier|papier ozdobny|embrulho|omslagspapper
gift|gifts|present|geschenk|geschenke|regalo|regalos|cadeau|cadeaux|regali|cadeaus|prezent|prezenty|upominek|presente|presentes|presenter|gåva
card|cards|karte|karten|tarjeta|tarjetas|carte|cartes|biglietto|biglietti|kaart|kaarten|kartka|kartki|cartão|cartões|kort
paper|papier|stationery|schreibwaren|papelería|papeterie|carta|cartoleria|papieru|papel|papelaria|papper
battery|batteries|batterie|batterien|akku|pila|pilas|batería|baterías|pile|piles|batteria|batterij|batterijen|bateria|baterie|pilha|pilhas|batteri|batterier
cable|cables|kabel|leitung|câble|câbles|cavo|cavi|snoer|snoeren|kabels|kable|cabo|cabos|sladd|sladdar
plug|plugs|stecker|enchufe|enchufes|prise|spina|presa|prese|stekker|stekkers|stopcontact|wtyczka|gniazdo|gniazdka|tomada|tomadas|kontakt|uttag
clothing|clothes|apparel|wear|kleidung|bekleidung|ropa|vestimenta|vêtement|vêtements|abbigliamento|vestiti|kleding|kleren|odzież|ubrania|roupa|roupas|vestuário|kläder
workwear|arbeitskleidung|arbeitshandschuhe|laboral|trabajo|travail|da lavoro|werkkleding|robocza|robocze|trabalho|arbetskläder|arbets
shirt|shirts|hemd|hemden|camisa|camisas|camiseta|chemise|camicia|camicie|overhemd|koszula|koszule|koszulka|skjorta|skjortor
trousers|pants|hose|hosen|pantalón|pantalones|pantalon|pantaloni|broek|broeken|spodnie|calças|byxa|byxor
shoe|shoes|boot|boots|schuh|schuhe|stiefel|zapato|zapatos|bota|botas|chaussure|bottes|scarpa|scarpe|stivale|stivali|schoen|schoenen|laars|laarzen|but|buty|kalosze|sapato|sapatos|sko|skor|stövel|stövlar
hat|hats|cap|hut|hüte|mütze|sombrero|gorra|gorro|chapeau|bonnet|cappello|cappelli|hoed|hoeden|muts|mutsen|kapelusz|kapelusze|czapka|czapki|chapéu|chapéus|hatt|hattar|mössa|mössor
sock|socks|socke|socken|calcetín|calcetines|chaussette|calza|calze|calzini|sok|sokken|skarpeta|skarpetki|skarpety|meia|meias|strumpa|strumpor|socka|sockor
jacket|jackets|coat|jacke|jacken|mantel|chaqueta|abrigo|veste|manteau|giacca|giacche|cappotto|jas|jassen|jack|kurtka|kurtki|płaszcz|casaco|casacos|jaqueta|jacka|jackor|rock
kitchen|küche|cocina|cuisine|cucina|keuken|kuchnia|kuchenny|kuchenne|cozinha|kök|köks
knife|knives|messer|küchenmesser|cuchillo|cuchillos|couteau|couteaux|coltello|coltelli|mes|messen|nóż|noże|faca|facas|kniv|knivar
cup|cups|mug|mugs|tasse|tassen|becher|taza|tazas|gobelet|tazza|tazze|mok|mokken|kop|kopje|kopjes|kubek|kubki|filiżanka|filiżanki|caneca|canecas|xícara|chávena|mugg|muggar|kopp|koppar
plate|plates|dish|dishes|teller|geschirr|plato|platos|vajilla|assiette|assiettes|piatto|piatti|bord|borden|talerz|talerze|prato|pratos|tallrik|tallrikar
bowl|bowls|schüssel|schüsseln|cuenco|cuencos|bol|bols|ciotola|ciotole|kom|kommen|miska|miski|tigela|tigelas|skål|skålar
jar|jars|glas|gläser|einmachglas|tarro|tarros|frasco|bocal|bocaux|barattolo|barattoli|pot|potten|słoik|słoiki|frascos|pote|burk|burkar
bottle|bottles|flasche|flaschen|botella|botellas|bouteille|bouteilles|bottiglia|bottiglie|fles|flessen|butelka|butelki|garrafa|garrafas|flaska|flaskor
candle|candles|kerze|kerzen|vela|velas|bougie|bougies|candela|candele|kaars|kaarsen|świeca|świece|świeczki|ljus|stearinljus
vase|vases|vasen|jarrón|jarrones|florero|floreros|vaso|vasi|vaas|vazen|wazon|wazony|jarra|jarras|vas|vaser
basket|baskets|korb|körbe|cesta|cestas|canasta|panier|paniers|cesto|cesti|cestino|mand|manden|mandje|kosz|kosze|koszyk|koszyki|cestos|korg|korgar
box|boxes|kiste|kisten|schachtel|karton|caja|cajas|boîte|boîtes|scatola|scatole|doos|dozen|kist|pudełko|pudełka|skrzynia|skrzynki|caixa|caixas|låda|lådor|ask
bag|bags|tasche|taschen|beutel|sack|bolsa|bolsas|bolso|sac|sacs|borsa|borse|tas|tassen|torba|torby|torebka|torebki|saco|mochila|väska|väskor|påse
towel|towels|handtuch|handtücher|toalla|toallas|serviette|asciugamano|asciugamani|strofinaccio|handdoek|handdoeken|theedoek|ręcznik|ręczniki|ściereczka|toalha|toalhas|handduk|handdukar
cushion|cushions|pillow|kissen|cojín|cojines|almohada|coussin|oreiller|cuscino|cuscini|kussen|kussens|poduszka|poduszki|almofada|almofadas|travesseiro|kudde|kuddar
blanket|blankets|decke|decken|manta|mantas|couverture|coperta|coperte|deken|dekens|koc|koce|cobertor|filt|filtar
chair|chairs|stuhl|stühle|sessel|silla|sillas|sillón|chaise|fauteuil|sedia|sedie|poltrona|stoel|stoelen|krzesło|krzesła|fotel|cadeira|cadeiras|stol|stolar
table|tables|tisch|tische|mesa|mesas|tavolo|tavoli|tafel|tafels|stół|stoły|stolik|bord
clock|clocks|uhr|uhren|reloj|relojes|horloge|montre|orologio|orologi|klok|klokken|zegar|zegary|zegarek|relógio|relógios|klocka|klockor|ur
mirror|mirrors|spiegel|espejo|espejos|miroir|miroirs|specchio|specchi|spiegels|lustro|lustra|espelho|espelhos|spegel|speglar
picture|pictures|poster|posters|bild|bilder|cuadro|cuadros|lámina|affiche|tableau|quadro|quadri|stampa|schilderij|plakat|plakaty|obraz|obrazy|quadros|tavla|tavlor|affisch|affischer
thermometer|thermometers|termómetro|termómetros|thermomètre|termometro|termometri|termometr|termometry|termômetro|termometer|termometrar
scale|scales|waage|waagen|báscula|básculas|balanza|balance|bilancia|bilance|weegschaal|weegschalen|waga|wagi|balança|balanças|våg|vågar
pet|pets|haustier|haustiere|tierbedarf|mascota|mascotas|animal|animaux|animale domestico|animali|huisdier|huisdieren|zwierzę|zwierzęta|zwierząt|animal de estimação|animais|husdjur
dog|dogs|hund|hunde|perro|perros|chien|chiens|cane|cani|hond|honden|pies|psy|psa|cão|cães|cachorro|hundar
cat|cats|katze|katzen|gato|gatos|chat|chats|gatto|gatti|kat|katten|kot|koty|kota|katt|katter
fish|aquarium|fisch|fische|acuario|pez|peces|poisson|pesce|pesci|acquario|acquari|vis|vissen|ryba|ryby|akwarium|akwaria|peixe|peixes|aquário|aquários|fisk|fiskar|akvarium
bird|birds|vogel|vögel|pájaro|pájaros|ave|oiseau|oiseaux|uccello|uccelli|vogels|ptak|ptaki|ptaków|pássaro|pássaros|fågel|fåglar
baby|babies|säugling|bebé|bebés|bébé|neonato|neonati|bebè|baby's|niemowlę|niemowlęta|niemowląt|bebê|bebês|spädbarn
puzzle|puzzles|rompecabezas|puzzel|puzzels|układanka|układanki|quebra-cabeça|pussel
game|games|spiel|spiele|juego|juegos|jeu|jeux|gioco|giochi|spel|spellen|gra|gry|jogo|jogos
doll|dolls|puppe|puppen|muñeca|muñecas|poupée|bambola|bambole|pop|poppen|lalka|lalki|boneca|bonecas|docka|dockor
pen|pens|pencil|pencils|stift|stifte|bolígrafo|lápiz|lápices|stylo|crayon|penna|penne|matita|matite|pennen|potlood|potloden|długopis|długopisy|pióro|ołówek|caneta|canetas|lápis|pennor
notebook|notebooks|notizbuch|notizbücher|heft|cuaderno|cuadernos|libreta|cahier|carnet|quaderno|quaderni|taccuino|notitieboek|notitieboeken|schrift|notatnik|notatniki|zeszyt|zeszyty|caderno|cadernos|anteckningsbok|anteckningsböcker
brush|brushes|bürste|bürsten|pinsel|cepillo|cepillos|brosse|pinceau|spazzola|spazzole|pennello|scopa|borstel|borstels|kwast|bezem|szczotka|szczotki|pędzel|escova|escovas|vassoura|borste|borstar|pensel|kvast
soap|soaps|seife|seifen|jabón|jabones|savon|sapone|saponi|zeep|zepen|mydło|mydła|sabonete|sabonetes|sabão|tvål|tvålar
cream|creams|creme|cremes|crema|cremas|crème|krem|kremy|kräm|krämer
tea|teas|tee|tees|té|tés|thé|tè|thee|theeën|herbata|herbaty|chá|chás|te
coffee|coffees|kaffee|café|cafés|caffè|koffie|kawa|kawy|kaffe
hose|hoses|schlauch|schläuche|gartenschlauch|manguera|mangueras|tuyau|tubo|tubi|tuinslang|tuinslangen|wąż ogrodowy|wąż|węże|mangueira|mangueiras|slang|slangar|trädgårdsslang
spade|shovel|spaten|schaufel|pala|palas|pelle|bêche|vanga|pale|paletta|schop|schep|schoffel|łopata|łopatka|szpadel|pá|pás|spadar|skyffel
scissors|shears|secateurs|pruner|schere|scheren|gartenschere|tijeras|podadera|sécateur|ciseaux|forbice|forbici|cesoie|schaar|scharen|snoeischaar|nożyczki|nożyce|sekator|sekatory|tesoura|tesouras|sax|saxar|sekatör
trellis|stake|stakes|rankhilfe|spalier|pflanzstab|tutor|tutores|enrejado|treillis|tuteur|traliccio|sostegno|tutore|latwerk|plantensteun|klimrek|podpora|podpory|pergola|treliça|suporte|spaljé|växtstöd
label|labels|marker|markers|etikett|etiketten|pflanzschild|etiqueta|etiquetas|étiquette|etichetta|etichette|etiket|etykieta|etykiety|etiketter|märke
pump|pumps|pumpe|pumpen|bomba|bombas|pompe|pompa|pomp|pompen|pompy|pumpar
fan|fans|ventilator|ventilador|ventiladores|ventilateur|ventilatore|wentylator|fläkt|fläktar
heater|heating|heizung|heizmatte|calefactor|calefacción|chauffage|riscaldamento|verwarming|kachel|grzejnik|grzałka|aquecedor|aquecimento|värmare|element
filter|filters|filtro|filtros|filtre|filtri|filtr|filtry
watering|irrigation|bewässerung|riego|arrosage|irrigazione|annaffiatura|bewatering|irrigatie|nawadnianie|podlewanie|rega|irrigação|bevattning
ceramic|ceramics|stoneware|keramik|steinzeug|steingut|cerámica|gres|céramique|grès|ceramica|keramiek|aardewerk|ceramika|ceramiczne|kamionka|cerâmica|grés|stengods
glass|glas|vidrio|cristal|verre|vetro|glazen|szkło|szklane|vidro
wood|wooden|holz|madera|bois|legno|hout|houten|drewno|drewniane|madeira|trä
outdoor|outdoors|draußen|außen|exterior|extérieur|esterno|esterni|buiten|zewnętrzne|na zewnątrz|utomhus|ute
indoor|indoors|innen|zimmer|interior|intérieur|interno|interni|binnen|kamerplanten|wewnętrzne|domowe|inomhus|inne
wall|wand|pared|mural|mur|parete|muro|muur|ściana|ścienne|ścienny|parede|vägg
hanging|hanger|hänge|hängend|colgante|suspendu|sospeso|appeso|hangend|wiszący|wiszące|suspenso|hängande|ampel
curtain|curtains|drape|drapes|blind|blinds|vorhang|vorhänge|gardine|gardinen|rollo|cortina|cortinas|persiana|rideau|rideaux|store|tenda|tende|gordijn|gordijnen|zasłona|zasłony|firanka|firanki|gardin|gardiner
rug|rugs|carpet|carpets|mat|teppich|teppiche|matte|alfombra|alfombras|tapis|tappeto|tappeti|vloerkleed|tapijt|dywan|dywany|tapete|tapetes|matta|mattor
saw|saws|säge|sägen|sierra|sierras|scie|scies|sega|seghe|zaag|zagen|piła|piły|serra|serras|serrote|såg|sågar
drill|drills|bohrer|bohrmaschine|taladro|taladros|perceuse|perceuses|trapano|trapani|boor|boormachine|wiertarka|wiertarki|furadeira|berbequim|borr|borrmaskin
hammer|hammers|hämmer|martillo|martillos|marteau|marteaux|martello|martelli|hamer|hamers|młotek|młotki|martelo|martelos|hammare
screwdriver|screwdrivers|schraubendreher|schraubenzieher|destornillador|destornilladores|tournevis|cacciavite|schroevendraaier|wkrętak|śrubokręt|chave de fenda|skruvmejsel|skruvmejslar
oven|baking|bakeware|backform|backen|horno|molde|moldes|moule|moules|four|stampo|stampi|forno|bakvorm|bakken|forma|formy|pieczenie|assadeira|bakform|bakformar
spice|spices|seasoning|gewürz|gewürze|especia|especias|épice|épices|spezia|spezie|specerij|specerijen|przyprawa|przyprawy|especiaria|especiarias|krydda|kryddor
honey|jam|honig|marmelade|konfitüre|miel|mermelada|confiture|miele|marmellata|honing|miód|dżem|mel|geleia|compota|honung|sylt
oil|oils|öl|öle|aceite|aceites|huile|huiles|olio|oli|olie|oliën|olej|oleje|oliwa|óleo|óleos|azeite|olja|oljor
salt|salts|salz|sal|sales|sel|sels|sale|zout|sól
bath|bathroom|bad|badezimmer|baño|bain|bagno|badkamer|kąpiel|łazienka|banho|banheiro|badrum
sun|sonne|sol|soleil|sole|zon|słońce|zonne
rain|regen|lluvia|pluie|pioggia|deszcz|przeciwdeszczowa|chuva|regn
winter|invierno|hiver|inverno|zima|zimowe
dress|dresses|frock|frocks|kleid|kleider|vestido|vestidos|robe|robes|abito|abiti|jurk|jurken|sukienka|sukienki|klänning|klänningar
jumper|jumpers|pullover|pullovers|sweater|sweaters|strickwaren|jersey|jerséis|pull|pulls|maglione|maglioni|trui|truien|sweter|swetry|camisola|tröja|tröjor
scarf|scarves|shawl|shawls|schal|schals|tuch|bufanda|bufandas|écharpe|écharpes|foulard|sciarpa|sciarpe|sjaal|sjaals|szalik|szaliki|cachecol|cachecóis|halsduk|halsdukar|sjal
belt|belts|gürtel|cinturón|cinturones|ceinture|ceintures|cintura|cinture|riem|riemen|pasek|paski|cinto|bälte|bälten
overall|overalls|dungarees|latzhose|latzhosen|peto|petos|mono|monos|salopette|salopettes|tuta|tute|tuinbroek|ogrodniczki|kombinezon|macacão|jardineira|snickarbyxor|overaller
trainer|trainers|sneaker|sneakers|turnschuh|turnschuhe|sportschuh|zapatilla|zapatillas|basket|baskets|scarpe da ginnastica|gympen|sportschoenen|trampki|adidasy|ténis|tênis|gymnastiksko|gymnastikskor
parasol|parasols|sunshade|sunshades|sonnenschirm|sonnenschirme|sombrilla|sombrillas|ombrellone|ombrelloni|parasolka|guarda-sol|parasoll|parasoller
fence|fences|fencing|zaun|zäune|valla|vallas|cerca|clôture|clôtures|recinto|recinzione|hek|hekken|schutting|płot|płoty|ogrodzenie|vedação|staket
pond|ponds|teich|teiche|estanque|estanques|étang|bassin|laghetto|laghetti|vijver|vijvers|staw|oczko wodne|lago|damm|dammar
barbecue|barbecues|grill|grills|bbq|barbacoa|barbacoas|griglia|griglie|churrasqueira|grelhador|grillar
compost|composter|composters|komposter|compostador|compostadores|composteur|composteurs|compostiera|compostvat|kompostownik|compostor|kompost
rake|rakes|rechen|harke|harken|rastrillo|rastrillos|râteau|râteaux|rastrello|rastrelli|hark|grabie|ancinho|kratta|krattor
sprayer|sprayers|mister|misters|sprühflasche|zerstäuber|pulverizador|pulverizadores|vaporisateur|pulvérisateur|spruzzatore|nebulizzatore|plantenspuit|sproeier|spryskiwacz|opryskiwacz|borrifador|sprayflaska|blomspruta
barrel|barrels|butt|tonne|tonnen|regentonne|depósito|tonneau|récupérateur|botte|cisterna|regenton|beczka|beczki|zbiornik|barril|tunna|tunnor
trap|traps|falle|fallen|trampa|trampas|piège|pièges|trappola|trappole|val|pułapka|pułapki|lep|armadilha|fälla|fällor
cactus|cacti|kaktus|kakteen|cactussen|kaktusy|cactos|kaktusar|succulent|succulents|sukkulente|sukkulenten|suculenta|suculentas|succulente|vetplant|vetplanten|sukulent|sukulenty
artificial|silk|faux|künstlich|kunst|artificiales|artificiel|artificielle|artificiale|artificiali|finti|sztuczny|sztuczne|artificiais|konstgjord|konst
teapot|teapots|teekanne|teekannen|tetera|teteras|théière|théières|teiera|teiere|theepot|theepotten|czajnik|czajniczek|dzbanek do herbaty|bule|bules|tekanna|tekannor
cutting|chopping|board|boards|schneidebrett|schneidebretter|tabla de cortar|planche|planches|tagliere|taglieri|snijplank|snijplanken|deska|deski|tábua|tábuas|skärbräda|skärbrädor
cloth|cloths|lappen|tücher|putztuch|bayeta|bayetas|paño|paños|chiffon|chiffons|panno|panni|doek|doeken|doekje|ścierka|ścierki|pano|panos|trasa|trasor|duk
bin|bins|waste|mülleimer|abfalleimer|cubo de basura|papelera|basura|poubelle|poubelles|pattumiera|pattumiere|cestino|prullenbak|afvalbak|vuilnisbak|śmietnik|kosz na śmieci|lixeira|balde do lixo|lixo|soptunna|papperskorg
hook|hooks|haken|gancho|ganchos|crochet|crochets|gancio|ganci|haak|haakje|hak|haki|haczyk|haczyki|wieszak|cabide|krok|krokar
laundry|washing|hamper|wäsche|wäschekorb|lavandería|colada|linge|bucato|biancheria|was|wasmand|pranie|lavandaria|roupa suja|tvätt|tvättkorg
frame|frames|rahmen|marco|marcos|cadre|cadres|cornice|cornici|lijst|lijsten|fotolijst|ramka|ramki|moldura|molduras|ram|ramar
holder|holders|candlestick|halter|ständer|kerzenständer|leuchter|candelabro|candelabros|portavelas|bougeoir|bougeoirs|candeliere|portacandele|kandelaar|kandelaars|świecznik|świeczniki|castiçal|castiçais|ljusstake|ljusstakar
bulb lamp|bulbs|glühbirne|glühbirnen|leuchtmittel|bombilla|bombillas|ampoule|ampoules|lampadina|lampadine|gloeilamp|gloeilampen|żarówka|żarówki|glödlampa|glödlampor
ceiling|decke|techo|plafond|soffitto|lampadario|sufit|sufitowe|teto|tak|taklampa
floor|stehlampe|stehleuchte|pie|lampadaire|terra|vloerlamp|podłogowa|chão|golv
timer|timers|switch|zeitschaltuhr|zeitschaltuhren|temporizador|programador|programadores|minuterie|programmateur|temporizzatore|tijdschakelaar|programator|minutnik|włącznik czasowy|strömbrytare
charger|chargers|ladegerät|ladegeräte|cargador|cargadores|chargeur|chargeurs|caricabatterie|caricatore|oplader|opladers|ładowarka|ładowarki|carregador|carregadores|laddare
extension|verlängerungskabel|verlängerung|alargador|alargadores|rallonge|rallonges|prolunga|prolunghe|verlengsnoer|przedłużacz|przedłużacze|extensão|extensões|förlängningssladd
leash|lead|leads|collar|collars|leine|leinen|halsband|hundeleine|correa|correas|laisse|laisses|collier|guinzaglio|guinzagli|collare|riem|hondenriem|smycz|smycze|obroża|trela|coleira|koppel
bed|beds|bett|betten|körbchen|cama|camas|lit|lits|cuccia|letto|letti|bedden|łóżko|legowisko|legowiska|säng|sängar|bädd
bowl for pets|napf|näpfe|comedero|comederos|gamelle|gamelles|voerbak|voerbakken|comedouro|matskål
feeder|feeders|futterhaus|futterhäuschen|vogelfutter|comedero|mangeoire|mangeoires|mangiatoia|mangiatoie|voederhuisje|voederplank|karmnik|karmniki|comedouro|fågelmatare|fågelbord
birdhouse|nesting|nestkasten|nistkasten|nistkästen|vogelhaus|vogelhäuschen|casa para pájaros|nichoir|nichoirs|casetta per uccelli|nido|vogelhuisje|vogelhuisjes|budka|budki lęgowe|ninho|fågelholk|fågelholkar
novel|novels|fiction|stories|roman|romane|novela|novelas|romans|romanzo|romanzi|powieść|powieści|romance|romances|romaner
poetry|poems|verse|gedichte|lyrik|poesía|poemas|poésie|poesia|poesie|gedichten|poëzie|wiersze|poezja|dikter|poesi
cookery|cooking|cookbook|cookbooks|recipe|recipes|kochbuch|kochbücher|rezepte|recetas|recettes|ricette|ricettario|kookboek|kookboeken|kucharskie|kucharska|przepisy|receitas|culinária|kokbok|kokböcker|recept
travel|reise|reiseführer|viaje|viajes|voyage|voyages|viaggio|viaggi|reis|reizen|reisgids|podróż|podróże|przewodnik|viagem|viagens|resa|resor|reseguide
diary|diaries|terminplaner|tagebuch|tagebücher|diario|diari|dagboek|agenda|agendas|terminarz|pamiętnik|diário|diários|dagbok|dagböcker
record|records|vinyl|schallplatte|schallplatten|vinilo|vinilos|disque|disques|vinyle|disco|dischi|vinili|lp|grammofoonplaat|platen|płyta|płyty|winyl|vinil|discos|skiva|skivor|vinylskiva
score|scores|sheet music|noten|notenheft|partitura|partituras|partition|partitions|spartito|spartiti|bladmuziek|nuty|noter|nothäfte
audiobook|audio|hörbuch|hörbücher|audiolibro|audiolibros|audiolibri|livre audio|livres audio|luisterboek|luisterboeken|audiobooki|audiolivro|ljudbok|ljudböcker
plush|soft toy|cuddly|teddy|kuscheltier|kuscheltiere|plüsch|peluche|peluches|knuffel|knuffels|pluszak|pluszaki|maskotka|pelúcia|gosedjur|mjukisdjur
building|construction|blocks|bausteine|baukasten|construcción|bloques|costruzioni|mattoncini|bouwstenen|bouwset|klocki|construção|blocos|byggklossar|byggsats
craft|crafts|handicraft|basteln|bastelset|manualidades|loisirs créatifs|bricolage|fai da te|hobby|knutselen|rękodzieło|artesanato|pyssel|hantverk
experiment|science|chemistry|experimentierkasten|experimento|experimentos|ciencia|expérience|sciences|esperimento|esperimenti|scienza|experimenteren|eksperyment|eksperymenty|experiência|ciência|experimentlåda
bib|bibs|lätzchen|babero|baberos|bavoir|bavoirs|bavaglino|bavaglini|slabbetje|slabbetjes|śliniak|śliniaki|babete|babador|haklapp|haklappar
diaper|nappy|nappies|changing|windel|windeln|wickelauflage|wickel|pañal|pañales|cambiador|couche|couches|à langer|pannolino|fasciatoio|luier|luiers|aankleedkussen|pieluch|pieluchy|przewijak|fralda|fraldas|trocador|blöja|blöjor|skötbädd
tape measure|measuring|maßband|maßbänder|messband|cinta métrica|cintas métricas|mètre ruban|metro a nastro|rolmaat|meetlint|miarka|taśma miernicza|fita métrica|måttband
sticker|stickers|aufkleber|pegatina|pegatinas|autocollant|autocollants|adesivo|adesivi|naklejka|naklejki|autocolante|adesivos|klistermärke|klistermärken
kneeler|kneelers|kneeling|kniekissen|knieschoner|rodillera|rodilleras|genouillère|genouillères|ginocchiera|ginocchiere|kniekussen|nakolanniki|joelheira|knäskydd
sprinkler|sprinklers|rasensprenger|regner|aspersor|aspersores|arroseur|arroseurs|irrigatore|irrigatori|zraszacz|zraszacze|vattenspridare
drip|tropf|tröpfchen|goteo|goutte|goccia|druppel|kroplowe|gotejamento|dropp
sand|sandkasten|arena|playa|sable|plage|sabbia|spiaggia|zand|strand|piasek|areia|praia
peat free|ecological|organic|bio|ökologisch|ecológico|biologique|biologico|biologisch|ekologiczny|biológico|ekologisk
`;

/** Words that only join others, folded. */
export const stopWords = new Set(
  'and or the of for with a an to in on und oder der die das den dem fur mit von aus zum zur y o de la el los las para con en del et ou du le les des pour avec au aux a e di da per con il lo gli dei delle van voor het een met i do na z w dla och for av med till em com dos das do da os as'.split(
    ' ',
  ),
);

/** The words of a name that say something. */
export const wordsOf = (text: string): string[] =>
  fold(text)
    .split(' ')
    .filter((word) => word.length > 1 && !stopWords.has(word));

/** Endings of plurals in several languages, so that "pots" meets "pot" and "Töpfe" meets "Topf". Common practice, no source. */
export function stem(word: string): string {
  if (word.length > 5 && /(ies)$/.test(word)) return `${word.slice(0, -3)}y`;
  if (word.length > 5 && /(en|es)$/.test(word)) return word.slice(0, -2);
  if (word.length > 3 && /[se]$/.test(word)) return word.slice(0, -1);
  return word;
}

const groups: readonly (readonly string[])[] = meanings
  .trim()
  .split('\n')
  .map((line) => [...new Set(line.split('|').map((word) => stem(fold(word))))]);

const byWord = new Map<string, readonly string[]>();
for (const group of groups)
  for (const word of group) byWord.set(word, [...new Set([...(byWord.get(word) ?? []), ...group])]);

type Meanings = readonly { readonly id: number; readonly english: string }[];
const byForm = new Map<string, Meanings>();
const byStem = new Map<string, Meanings>();
for (const [id, line] of meanings.trim().split('\n').entries()) {
  const words = line.split('|').map(fold);
  const one = { id, english: words[0] ?? '' };
  for (const word of new Set(words)) byForm.set(word, [...(byForm.get(word) ?? []), one]);
  for (const word of new Set(words.map(stem))) byStem.set(word, [...(byStem.get(word) ?? []), one]);
}

/** Words long enough to be told apart inside a longer one, the longest first. */
const inside = [...byWord.keys()].filter((word) => word.length >= 4).sort((a, b) => b.length - a.length);
const parted = new Map<string, readonly string[]>();

/** The word before the last part of a longer one, without what links them in German: "pflanzen" → "pflanz". */
function firstOf(before: string): string | undefined {
  return [before, before.replace(/(s|n|en|er)$/, '')].map(stem).find((word) => byWord.has(word));
}

/**
 * The parts of a word put together of several, as German does, the last one first: "blumentopf" → "topf", "blum".
 * @param word folded and stemmed @returns none where it is no such word
 */
export function partsOf(word: string): readonly string[] {
  if (word.length < 7) return [];
  const known = parted.get(word);
  if (known) return known;
  const head = inside.find((part) => part.length <= word.length - 3 && word.endsWith(part));
  const first = head === undefined ? undefined : firstOf(word.slice(0, -head.length));
  const parts = [head, first].filter((part) => part !== undefined);
  if (parted.size < 20_000) parted.set(word, parts);
  return parts;
}

/**
 * The meanings that a word has here, as numbers, with a word of English for each. As it is written, where it stands here so:
 * a "Schale" is no "Schal", though they share a stem. @param word folded
 */
export const meaningsOf = (word: string): Meanings => byForm.get(word) ?? meaningsOfStem(stem(word));

/** The same for a stem. */
export const meaningsOfStem = (word: string): Meanings => byStem.get(word) ?? [];

/** Other words for the same, in any of the nine languages. @param word folded and stemmed */
export const sameMeaning = (word: string): readonly string[] =>
  (byWord.get(word) ?? []).filter((other) => other !== word);
