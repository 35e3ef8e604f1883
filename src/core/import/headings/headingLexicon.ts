import { fold } from '../../text/folding';
import { furtherAbout, furtherIdle, furtherNames } from './furtherHeadings';
import { headingPhrases } from './headingPhrases';

/**
 * What headings of suppliers' files call the attributes, in English, German, French, Spanish, Italian, Dutch, Polish,
 * Portuguese and Swedish, with the abbreviations of the trade. Common practice, no source. They are looked up beside the
 * names a merchant gives an attribute, and are not shown there.
 */
const words: Readonly<Record<string, string>> = {
  sku: `stock keeping unit|supplier assigned|supplier aid|supplier pid|supplier article id|supplier product id|händlerartikelnummer|plu|part no|part number|pos|material|model no|
    article no|article code|article|item|item id|item nr|product id|product no|product number|product nr|prod no|part|
    catalogue number|cat no|style|style no|variant sku|variant code|vendor sku|supplier sku|own number|key|sku code|
    art nr|artnr|artikel nr|artikelnr|artikelnummer|artikel|artikel no|art no|bestell nr|best nr|bestellnr|sachnummer|
    materialnummer|mat nr|produktnummer|produkt nr|teilenr|variantennummer|nummer|nr|
    réf|réf article|référence|référence produit|référence article|code produit|code article|n° article|no article|
    ref|ref producto|referencia|código|código de artículo|código artículo|cod articulo|código de producto|cod|n articulo|
    codice|codice articolo|cod articolo|cod art|codice prodotto|rif|riferimento|articolo|
    artikelcode|bestelnummer|art code|productcode|productnummer|bestelnr|
    indeks|kod|kod produktu|kod towaru|nr katalogowy|numer katalogowy|symbol|numer artykułu|nr art|kod artykułu|
    código do produto|código do artigo|cód|cód produto|referência|ref artigo|código artigo|
    artikelnummer|artnr|produktkod|varunummer|benämningsnr`,
  name: `annonsrubrik|desc|short desc|libellé court|
    item|artikel|article|articolo|artykuł|artigo|title|product title|item title|short description|short text|description short|item description|article name|
    product|model name|heading|bezeichnung|bez|artikelbezeichnung|artikelbez|artikelname|produktbezeichnung|
    kurzbezeichnung|kurztext|name|titel|benennung|bezeichnung 1|désignation|désign|libellé|libellé produit|
    nom du produit|nom produit|intitulé|titre|nom|nombre|nombre del producto|título|denominación|artículo|
    nombre artículo|producto|nome|nome prodotto|titolo|denominazione|descrizione breve|prodotto|naam|productnaam|
    artikelnaam|omschrijving kort|titel|artikelomschrijving|nazwa|nazwa produktu|nazwa towaru|tytuł|nazwa artykułu|
    nome do produto|designação|título|nome|produto|namn|produktnamn|artikelnamn|benämning|titel`,
  description: `marketing description|marketing copy|sales text|marketingtext|werbetext|verkaufstext|texte marketing|texte commercial|argumentaire|argumentaire commercial|texto comercial|texto de marketing|testo commerciale|testo marketing|marketingtekst|verkooptekst|opis marketingowy|texto publicitário|säljtext|marknadsföringstext|klappentext|flaptekst|blurb|book blurb|quatrième de couverture|quarta di copertina|contracubierta|contracapa|baksidestext|beschreibungstext|produkttext|texte descriptif|texto descriptivo|testo descrittivo|tekst|opis towaru|texto|
    libellé long|texte long|desc long|long desc|descripción detallada|descrizione dettagliata|opis szczegółowy|descrição detalhada|utförlig beskrivning|
    product description|long text|description long|full description|html description|details|copy|marketing text|
    beschreibung|artikelbeschreibung|produktbeschreibung|langbeschreibung|langtext|detailbeschreibung|beschr|
    description|description longue|descriptif|texte|détails|description produit|
    descripción|descripción larga|detalle|texto|descripción del producto|
    descrizione|descrizione lunga|descrizione prodotto|testo|dettagli|
    beschrijving|omschrijving|productomschrijving|lange omschrijving|
    opis|opis produktu|opis długi|
    descrição|descrição longa|descrição do produto|
    beskrivning|produktbeskrivning|lång beskrivning|text`,
  brand: `produtor|productor|winery|brewery|weingut|kellerei|brauerei|bodega|cervecería|cantina|birrificio|brouwerij|wijnhuis|browar|winnica|adega|vingård|bryggeri|made by|hergestellt von|fabriqué par|fait par|hecho por|fabricado por|prodotto da|fatto da|gemaakt door|wyprodukowano przez|feito por|tillverkad av|mfr|mfg|manuf|
    make|label|brand name|manufacturer name|maker name|manufacturer|herstellername|hersteller name|nom du fabricant|nombre del fabricante|nome produttore|naam fabrikant|nazwa producenta|nome do fabricante|tillverkarens namn|marke|fabrikat|herst|hersteller|markenname|marque|fabricant|fabriquant|marca|fabricante|
    marchio|produttore|casa produttrice|merk|fabrikant|merknaam|marka|producent|märke|varumärke|tillverkare|fabrikat`,
  category: `heading above|kategoriepfad|category tree|chemin de catégorie|ruta de categoría|categoriepad|ścieżka kategorii|kategorisökväg|percorso categoria|
    product category|category path|range|product group|type|family name|main group|
    kategorie|warengruppe|wgr|artikelgruppe|produktgruppe|sortiment|rubrik|kat|
    catégorie|famille|rayon|gamme|sous famille|
    categoría|familia|sección|grupo|gama|
    categoria|reparto|gruppo|gamma|famiglia|categoria prodotto|
    categorie|productgroep|assortiment|groep|
    kategoria|grupa|grupa towarowa|dział|
    categoria|família|secção|grupo|
    kategori|varugrupp|produktgrupp|avdelning`,
  gtin: `ean13|ean 13|ean13 code|ean code|gtin13|gtin 13|gtin14|upc code|upc a|barcode number|bar code|isbn13|
    ean nr|ean nummer|strichcode|barcode|ean code|gencode|gencod|code ean|code barre|code à barres|
    código ean|código de barras|cod barras|cod ean|codice ean|codice a barre|barcode|streepjescode|ean code|kod ean|
    kod kreskowy|código de barras|cód barras|streckkod|ean kod`,
  mpn: `mpn|manufacturer no|manufacturer number|mfr part no|mfg part number|oem|oem number|maker code|factory code|
    herstellerartikelnummer|herst art nr|hersteller nr|herstellernr|hersteller artikelnummer|werksnummer|
    référence fabricant|réf fabricant|réf fournisseur|référence constructeur|
    referencia fabricante|ref fabricante|código fabricante|
    codice produttore|codice fornitore|cod produttore|
    fabrikantcode|artikelnummer fabrikant|fabrikant artikelnummer|
    kod producenta|numer producenta|
    referência do fabricante|ref fabricante|
    tillverkarens artikelnummer|tillverkarnummer`,
  price: `price|sales price|sell price|retail|rrp inc vat|rrp incl vat|price inc vat|price incl vat|gross|unit price|rsp|srp|price gross|
    verkaufspreis|vk|vk brutto|brutto|bruttopreis|preis|preis brutto|ladenpreis|vk preis|endpreis|vkpreis|
    preis inkl mwst|prix|prix de vente|prix ttc|pv ttc|pvttc|pv|prix unitaire|tarif|prix de vente ttc|precio|pvp|
    precio de venta|precio con iva|pvp iva incl|precio venta|tarifa|p v p|prezzo|prezzo di vendita|prezzo ivato|
    prezzo iva inclusa|prezzo al pubblico|prijs|verkoopprijs|prijs incl btw|consumentenprijs|vkp|cena|cena brutto|
    cena sprzedaży|cena detaliczna|preço|preço de venda|preço com iva|pvp|pris|försäljningspris|pris inkl moms|
    utpris|butikspris`,
  priceCurrency: `currency|curr|ccy|währung|wkz|waehrung|monnaie|devise|moneda|divisa|valuta|munt|waluta|moeda|valuta`,
  listPrice: `price before|catalogue price|catalog price|catalogue retail price|tarif public|pvpr|pvp recomendado|ursprungspreis|statt preis|alter preis|ancien prix|vecchio prezzo|oude prijs|stara cena|preço anterior|tidigare pris|
    recommended retail price|rek pris|rekpris|rek price|empf preis|prix recommandé|adv prijs|cena rekomendowana|preço aconselhado|prezzo suggerito|
    msrp|rrp|list price|list|regular price|original price|was|
    uvp|unverbindliche preisempfehlung|listenpreis|katalogpreis|empf vk|
    prix conseillé|prix public|pvp rec|pvp recom|adviesverkoopprijs|prix de vente conseillé|preço recomendado|prezzo al pubblico consigliato|rekommenderat pris|prix public conseillé|ppc|prix catalogue|prix barré|
    precio recomendado|precio de lista|precio anterior|pvr|precio de catálogo|
    prezzo consigliato|prezzo di listino|prezzo listino|
    adviesprijs|catalogusprijs|van prijs|
    cena katalogowa|cena sugerowana|cena regularna|
    preço recomendado|preço de tabela|preço de catálogo|
    rekommenderat pris|listpris|ordinarie pris|ca pris`,
  salePrice: `cena promocyjna brutto|sale price|offer price|special price|promo price|reduced price|discount price|
    aktionspreis|angebotspreis|sonderpreis|reduziert|
    prix promo|prix promotionnel|prix soldé|prix réduit|
    precio de oferta|precio oferta|precio rebajado|oferta|
    prezzo promozionale|prezzo scontato|prezzo offerta|
    actieprijs|aanbiedingsprijs|
    cena promocyjna|
    preço promocional|preço de promoção|
    kampanjpris|reapris|extrapris`,
  cost: `wsp|trade|wholesale|dealer|net customer|customer net|net customer price|net customer price amount|customer net price|
    cost|cost price|buy price|purchase price|trade price|wholesale price|dealer price|ek|ek netto|einkaufspreis|
    händlerpreis|ek preis|hek|prix d achat|prix achat|pa ht|prix de revient|precio de coste|coste|precio compra|
    precio de compra|prezzo di acquisto|prezzo d acquisto|costo|prezzo di costo|inkoopprijs|inkoop|inkoopprijs netto|
    cena zakupu|cena hurtowa|preço de custo|custo|preço de compra|inköpspris|inpris`,
  availability: `availability|stock status|in stock|delivery status|verfügbarkeit|lieferstatus|lagerstatus|lieferbarkeit|
    verfügbar|disponibilité|disponible|statut stock|disponibilidad|disponible|estado stock|disponibilità|disponibile|
    beschikbaarheid|voorraadstatus|leverbaar|dostępność|dostępny|stan dostępności|disponibilidade|disponível|
    tillgänglighet|lagerstatus`,
  availabilityStarts: `eta|next eta|next delivery|expected|verwacht|erwartet|attendu|previsto|ready to ship on|ready to ship from|dispatch date|dispatch from|in stock from|in stock on|back in stock|expected on|expected date|restock date|pre order date|street date|on sale from|available on|available date|
    versandbereit ab|versandfertig ab|wieder da ab|wieder lieferbar ab|erhältlich ab|im handel ab|eintreffdatum|liefertermin|disponible le|date de disponibilité|date de parution|expédié à partir du|en stock le|fecha de disponibilidad|a la venta desde|listo para enviar el|data disponibilità|disponibile da|in vendita dal|spedibile dal|beschikbaar vanaf|verwacht op|te koop vanaf|w sprzedaży od|dostawa od|wysyłka od|data de lançamento|data de disponibilidade|à venda desde|i lager från|skickas från|säljstart|
    available from|release date|launch date|lieferbar ab|erscheinungsdatum|verfügbar ab|date de sortie|
    disponible à partir du|disponible desde|fecha de lanzamiento|disponibile dal|data di uscita|leverbaar vanaf|
    dostępny od|data premiery|disponível a partir de|tillgänglig från|releasedatum`,
  inventoryLevel: `giac|giacenze|available|verfügbar|disponible|dispo|disponibile|disponível|dostępne|dostępny|beschikbaar|tillgänglig|tillgängligt|
    qty in stock|quantity in stock|stock level|anzahl auf lager|stückzahl|quantité dispo|quantité disponible|unités en stock|unidades en stock|cantidad disponible|qtà disponibile|quantità disponibile|pezzi disponibili|aantal op voorraad|op voorraad|ilość na stanie|dostępna ilość|quantidade em stock|quantidade disponível|antal i lager|
    stock|stock qty|stock quantity|qty available|qoh|units|on hand|inventory|free stock|available qty|
    bestand|lagerbestand|lagermenge|menge|verfügbare menge|bestand stk|lager|stk|
    stock|qté|qte|quantité|quantité en stock|stock dispo|
    stock|existencias|cantidad|unidades|uds|
    giacenza|quantità|qtà|scorta|disponibilità pezzi|magazzino|
    voorraad|aantal|hoeveelheid|
    stan|stan magazynowy|ilość|ilość szt|
    stock|quantidade|qtd|existências|
    lagersaldo|antal|saldo|lager`,
  itemCondition: `condition|item condition|zustand|artikelzustand|état|état du produit|estado|estado del producto|condizione|
    condizioni|staat|conditie|stan produktu|stan towaru|condição|estado do produto|skick`,
  color: `colour|color|colourway|farbe|farbton|farbbezeichnung|couleur|coloris|teinte|color|colorido|colore|tinta|kleur|kolor|
    barwa|cor|färg|kulör`,
  size: `medida|medidas|mått|wymiar|formaat|format|dimensione|dimensão|
    size|sizes|größe|groesse|gr|konfektionsgröße|taille|pointure|talla|tamaño|taglia|misura|maat|afmeting|rozmiar|
    tamanho|storlek|stl`,
  diameter: `across|diameter|dia|durchmesser|dm|ø|diamètre|diam|diámetro|diametro|średnica|diâmetro|diameter`,
  material: `made of|what it is made of|hecho de|hecha de|fait de|fabriqué en matière|fatto di|gemaakt van|gjord av|zrobione z|wykonane z|feito de|besteht aus|hergestellt aus|zusammensetzung|composición|composizione|samenstelling|skład|skład materiałowy|composição|sammansättning|made from|fabric composition|
    material|fabric|materials|werkstoff|stoff|materialzusammensetzung|matière|matériau|matériaux|composition|material|
    tejido|composición|materiale|tessuto|composizione|materiaal|stof|materiał|tworzywo|tecido|material`,
  pattern: `pattern|print|design|muster|dessin|motif|imprimé|estampado|dibujo|motivo|fantasia|patroon|dessin|wzór|deseń|
    padrão|estampa|mönster`,
  gender: `gender|sex|for whom|geschlecht|zielgruppe|sexe|genre|género|sexo|genere|sesso|geslacht|płeć|género|sexo|kön`,
  ageGroup: `life stage|age class|age bracket|age category|target age|lebensphase|altersstufe|altersklasse|catégorie d âge|classe d âge|étape de vie|etapa de vida|categoría de edad|categoria d età|fase di vita|leeftijdscategorie|levensfase|kategoria wiekowa|faza życia|fase da vida|ålderskategori|
    age group|altersgruppe|groupe d âge|tranche d âge|grupo de edad|fascia d età|leeftijdsgroep|grupa wiekowa|
    faixa etária|åldersgrupp`,
  ageRange: `age|age range|recommended age|alter|altersempfehlung|âge|âge recommandé|edad|edad recomendada|età|età consigliata|
    leeftijd|wiek|idade|idade recomendada|ålder`,
  weight: `unit weight|weight per unit|weight each|stückgewicht|einzelgewicht|eigengewicht|poids unitaire|peso unitario|peso unitário|stuksgewicht|waga jednostkowa|styckvikt|weight|net weight|item weight|wt|grams|gramm|grammes|gramos|grammi|gramas|variant grams|variant weight|gewicht|gew|nettogewicht|artikelgewicht|poids|poids net|peso|peso neto|peso netto|
    peso articolo|nettogewicht|waga|waga netto|masa|peso líquido|vikt|nettovikt`,
  width: `width|w|breite|b|largeur|larg|ancho|anchura|larghezza|breedte|szerokość|szer|largura|bredd`,
  height: `height|h|höhe|hoehe|hauteur|haut|alto|altura|altezza|hoogte|wysokość|wys|altura|höjd`,
  depth: `depth|length|d|l|tiefe|länge|laenge|profondeur|prof|longueur|long|fondo|profundidad|largo|longitud|profondità|
    lunghezza|diepte|lengte|głębokość|długość|dł|profundidade|comprimento|djup|längd`,
  volume: `volume|capacity|contents|content|inhalt|volumen|fassungsvermögen|füllmenge|contenance|capacité|capacidad|contenido|
    volumen|capacità|contenuto|inhoud|volume|pojemność|objętość|capacidade|conteúdo|volym|rymd|innehåll`,
  packageWeight: `pk wt|pack weight|packed weight|packing weight|
    shipping weight|gross weight|parcel weight|package weight|versandgewicht|bruttogewicht|paketgewicht|
    poids brut|poids colis|poids d expédition|peso bruto|peso del paquete|peso de envío|peso lordo|peso collo|peso spedizione|
    brutogewicht|verzendgewicht|waga brutto|waga paczki|waga wysyłkowa|peso bruto|peso da embalagem|bruttovikt|fraktvikt`,
  packageWidth: `package width|parcel width|box width|paketbreite|verpackungsbreite|largeur colis|ancho paquete|
    larghezza collo|breedte verpakking|szerokość paczki|largura da embalagem|paketbredd`,
  packageHeight: `package height|parcel height|box height|pakethöhe|verpackungshöhe|hauteur colis|alto paquete|altezza collo|
    hoogte verpakking|wysokość paczki|altura da embalagem|pakethöjd`,
  packageDepth: `package length|package depth|parcel length|box length|paketlänge|pakettiefe|verpackungslänge|longueur colis|
    largo paquete|lunghezza collo|lengte verpakking|długość paczki|comprimento da embalagem|paketlängd`,
  energyClass: `energy class|energy label|energy rating|energieeffizienzklasse|energieklasse|eek|classe énergétique|
    clase energética|classe energetica|energieklasse|energielabel|klasa energetyczna|classe energética|energiklass`,
  countryOfOrigin: `where made|where it was made|place of manufacture|place of origin|erzeugerland|herstellungsort|lieu de fabrication|lieu de production|lugar de fabricación|luogo di produzione|plaats van productie|miejsce produkcji|local de fabrico|tillverkningsort|hergestellt in|gefertigt in|fabriqué en|fabriqué au|hecho en|fabricado en|prodotto in|fatto in|gemaakt in|wyprodukowano w|feito em|fabricado em|tillverkad i|herstellland|fertigungsland|pays|país|paese|kraj|land|
    country of manufacture|manufactured in|herstellungsland|produktionsland|pays de fabrication|país de fabricación|paese di produzione|land van productie|kraj produkcji|país de fabrico|
    country of origin|origin|made in|coo|herkunftsland|ursprungsland|ursprung|pays d origine|origine|
    país de origen|origen|paese di origine|paese d origine|origine|land van herkomst|herkomst|kraj pochodzenia|pochodzenie|
    país de origem|origem|ursprungsland|tillverkningsland`,
  customsCode: `zolltarif|zollnummer|hs code nr|tarif douanier|arancel|dazio|tariefcode|taryfa celna|pauta aduaneira|tulltaxa|
    hs code|hts|tariff code|commodity code|customs tariff|taric|zolltarifnummer|warennummer|stat warennr|
    code douanier|nomenclature douanière|code sh|código arancelario|partida arancelaria|taric|codice doganale|
    goederencode|statistieknummer|kod celny|kod cn|código pautal|tullkod|statistiskt nummer`,
  author: `author|authors|writer|autor|verfasser|auteur|autor|autore|auteur|autor|författare`,
  url: `product url|url|link|deeplink|deep link|web page|website|produktseite|produktlink|artikel url|lien|lien produit|
    url produit|page produit|enlace|url producto|link prodotto|url prodotto|productlink|product url|link do produto|
    adres strony|link do produktu|produktlänk|länk`,
  image: `image|images|image url|main image|picture|pictures|photo|photos|pic|img|image link|image 1|
    bild|bilder|bild url|bildlink|hauptbild|produktbild|foto|bild 1|
    photo|photos|image|images|url image|visuel|lien image|
    imagen|imágenes|foto|fotos|url imagen|
    immagine|immagini|foto|url immagine|
    afbeelding|afbeeldingen|foto|
    zdjęcie|zdjęcia|obrazek|grafika|
    imagem|imagens|foto|fotografia|
    bild|bilder|bildlänk`,
  minimumOrder: `moq|min qty|minimum quantity|min order qty|mindestmenge|mindestabnahme|mba|quantité minimum|qté min|
    cantidad mínima|pedido mínimo|quantità minima|minimale afname|minimum ilość|minimalna ilość|quantidade mínima|
    minsta antal|min antal`,
  maximumOrder: `max qty|maximum quantity|höchstmenge|quantité maximum|cantidad máxima|quantità massima|maximale afname|
    maksymalna ilość|quantidade máxima|högsta antal`,
  pageTitle: `seo title|meta title|title tag|page title|browser title|search title|search result title|seo titel|meta titel|seitentitel|suchergebnistitel|titel für suchmaschinen|
    titre seo|titre de page|balise titre|título seo|título de página|meta título|titolo seo|titolo pagina|meta titolo|paginatitel|tytuł seo|tytuł strony|meta tytuł|título da página|sidtitel|seo titulo`,
  pageDescription: `seo description|meta description|page description|search description|search result text|search snippet|snippet|seo beschreibung|meta beschreibung|seitenbeschreibung|suchergebnistext|text für suchmaschinen|
    description seo|méta description|description de page|descripción seo|meta descripción|descripción de página|descrizione seo|meta descrizione|seo beschrijving|meta beschrijving|paginabeschrijving|opis seo|meta opis|descrição seo|meta descrição|metabeskrivning|sidbeskrivning`,
  saleStarts: `sale start|sale begins|offer starts|offer valid from|special price from|promotion start|promo start|aktionsbeginn|angebot ab|angebotsbeginn|aktionspreis ab|
    début promo|début de promotion|promo du|inicio de oferta|oferta desde|inizio promozione|offerta dal|begin actie|actie vanaf|promocja od|początek promocji|início da promoção|kampanjstart|rea från`,
  saleEnds: `sale end|sale ends|offer ends|offer valid until|special price to|promotion end|promo end|aktionsende|angebot bis|angebotsende|aktionspreis bis|
    fin promo|fin de promotion|promo au|fin de oferta|oferta hasta|fine promozione|offerta fino al|einde actie|actie tot|promocja do|koniec promocji|fim da promoção|kampanjslut|rea till`,
  backOrder: `backorder|back order|backorders|backorder allowed|oversell|continue selling|nachbestellbar|rückstand möglich|überverkauf|
    commande différée|pedido pendiente|venta sin stock|ordine arretrato|nabestelling|nabestelbaar|zamówienie oczekujące|encomenda pendente|restorder`,
  dangerousGoods: `dangerous goods|hazardous|hazmat|hazard class|adr|un number|gefahrgut|gefahrstoff|marchandise dangereuse|matière dangereuse|
    mercancía peligrosa|merce pericolosa|gevaarlijke goederen|gevaarlijke stof|towar niebezpieczny|mercadoria perigosa|farligt gods`,
  liquids: `liquid|contains liquid|liquids|flüssigkeit|enthält flüssigkeit|liquide|contient du liquide|contiene líquido|contiene liquido|vloeistof|płyn|zawiera płyn|contém líquido|vätska`,
  plug: `plug|plug type|power plug|stecker|steckertyp|netzstecker|prise|type de prise|enchufe|tipo de enchufe|spina|tipo di spina|stekker|stekkertype|wtyczka|typ wtyczki|ficha|tipo de ficha|stickpropp|kontakttyp`,
  digital: `digital|download|downloadable|digital product|e product|herunterladbar|digitales produkt|téléchargeable|produit numérique|descargable|producto digital|scaricabile|prodotto digitale|digitaal product|do pobrania|produkt cyfrowy|produto digital|nedladdningsbar`,
  warning: `warning|safety notice|hazard statement|warnhinweis|sicherheitshinweis|avertissement|mise en garde|advertencia|
    avvertenza|avvertenze|waarschuwing|ostrzeżenie|aviso|advertência|varning`,
  use: `use|usage|application|suitable for|verwendung|anwendung|einsatzbereich|utilisation|usage|uso|aplicación|utilizzo|
    impiego|gebruik|toepassing|zastosowanie|utilização|användning`,
  highlights: `highlights|bullets|bullet points|key features|usp|features|merkmale|vorteile|produktmerkmale|points forts|
    caractéristiques|características|ventajas|caratteristiche|punti di forza|kenmerken|voordelen|cechy|zalety|
    características|vantagens|egenskaper|fördelar`,
  bookFormat: `format|formato|formaat|binding|book format|cover type|einband|bindung|reliure|encuadernación|rilegatura|bindwijze|oprawa|
    encadernação|band|bandtyp`,
  batteries: `batteries|battery type|batterien|batterie|piles|pilas|pile|batterijen|baterie|pilhas|batterier`,
  shelfLife: `shelf life|haltbarkeit|mhd tage|durée de conservation|vida útil|durata|houdbaarheid|trwałość|
    prazo de validade|hållbarhet`,
  sowBy: `sow by|best before|expiry|expiry date|mhd|mindesthaltbar bis|à consommer avant|dluo|caducidad|fecha de caducidad|
    scadenza|houdbaar tot|data ważności|validade|bäst före`,
  family: `parent|handle|parent sku|group code|item group|style group|variant group|family code|vater|vaterartikel|modell|modellnummer|
    hauptartikel|parent code|code modèle|modèle|référence mère|modelo|código padre|modello|codice padre|model|hoofdartikel|
    kod rodzica|grupa wariantów|modell nr|huvudartikel`,
};

/** Words that most headings may have or lack: what is listed, which picture of several, how long a text is. */
const idle = new Set(
  `product products item items article variant artikel produkt produkts ware produit produits articulo producto productos
  prodotto prodotti articolo towaru produktu artykulu artigo produto vara varans varan
  buch book livre libro boek książka livro bok
  en ao aos au aux am im em na sul al för för pour für para per voor dla till
  how much what which is was are how or und oder ou og och eller oraz lub
  the of for in to de du des la le les del el los di il lo della dell van het do da dos
  listing annonce inserzione advertentie anuncio anúncio annons ogłoszenia inserat
  główne główny główna overall total gesamt totale totaal celkem insgesamt
  dims dim dimension dimensions abmessung mass masse abmessungen afm wymiar mått matt misura medida main haupt principal
  principale hoofd glowne field col column spalte ${furtherIdle}`
    .split(/\s+/)
    .map(fold),
);
/** What a word of a heading is about, by its words in the nine languages and their abbreviations. Common practice, no source. */
const firstAbout = Object.entries({
  code: 'sku cód cod código codigos codice codici kod kode nr no num numero número numer nummer number n° núm ident id',
  barcode: 'ean gtin upc isbn strichcode streckkod streepjescode gencod gencode barres barras kreskowy',
  price: 'preis prix precio prezzo prijs cena preço pris pvp tarif tarifa tariffa ceny preise',
  current:
    'last letzter actual actuel atual attuale aktuell aktueller huidige obecna aktualna nuvarande unser notre nuestro nostro onze nasza nosso vår',
  new: 'neu neuer nuevo nouveau nuovo nieuwe nowa nytt novo',
  final: 'endgültig definitivo końcowa slutligt',
  old: 'former formerly earlier prior initial bisheriger bisher früherer vorheriger ursprünglicher ursprünglich précédent précédente initial inicial previo precedent original originale iniziale originele vorige poprzednia pierwotna początkowa anterior inicial föregående ursprungligt ancien anterior vecchio precedente oude stara poprzednia antigo tidigare gammalt was previous',
  ahead: 'before vor avant antes prima voor przed före',
  full: 'habitual habituel habituelle usual üblicher abituale gewone gebruikelijke zwykła habitual vanlig pełny voll vollständig complete complète completa completo volledig całkowity plein pieno intero volle pełna cheio fullt regular regulärer normal normaler normale ordinarie original originale',
  purchase:
    'pa nabycia acquisition buying einkauf einkaufs ek achat compra acquisto inkoop zakupu zakup inköp buy kauf',
  wholesale:
    'großhandel händler grossiste mayorista ingrosso groothandel hurtowa hurt atacado revenda grossist trade dealer reseller',
  cost: 'kosten coste costo coût custo koszt kostnad costs',
  // What is taken off; beside a price, the price that is left.
  discount:
    'rabacie rabat remisé markdown clearance discount discounted discounts reduction reduced rabatt rabattierter reduzierter senkung preissenkung remise rabais rebaja rebajas descuento sconto ribasso korting verlaagd zniżka zniżki obniżka obniżki przecena desconto redução nedsättning rabatterat',
  sale: 'oferty ofertas promotional promotie promoção promocji aktion angebot promo promotion promotionnel oferta rebajado offerta promozionale scontato actie aanbieding promocyjna promocional kampanj rea special deal soldé réduit sonder',
  recommended:
    'rrp msrp uvp empf empfohlen empfohlener conseillé recommandé recomendado pvpr consigliato suggerito advies zalecana sugerowana aconselhado rekommenderat rek suggested',
  retail:
    'verkauf verkaufs vk vente venta vendita verkoop sprzedaży detaliczna detal venda försäljning selling sell consumer consumenten público public pubblico publico konsument laden butik',
  net: 'netto neto nett ht líquido excl exkl',
  gross: 'brutto bruto lordo brut ttc inkl incl',
  tax: 'steuer steuern taxe taxes impuesto impuestos imposta belasting podatek imposto skatt mwst ust vat tva iva btw moms gst',
  reorder: 'melde réappro reposición riordino herbestel zamawiania ponto beställnings',
  stock:
    'magazynowy ist bestand lager vorrat lagerbestand existencias giacenza giacenze scorta scorte voorraad stan zapas stanie lagersaldo saldo inventory stocks',
  warehouse: 'magazynowa almacén magazzino magazynie magazyn magazynu armazém entrepôt depot magazijn',
  available:
    'disponibles verfügbare disponibili disponíveis dostępnych disponibelt disponibla verfügbar verfügbarkeit disponible disponibilité disponibilidad disponibile disponibilità beschikbaar beschikbaarheid dostępny dostępna dostępność dostępne disponível disponibilidade tillgänglig tillgänglighet availability leverbaar lieferbar dispo',
  quantity:
    'stückzahl remaining restantes restants restanti resterande pozostało uds ud pcs qty qté qte q.tà qtà qta qtd qtde quantité cantidad quantità quantidade menge aantal hoeveelheid ilość antal anzahl cant units unités unidades stück stk pieces pezzi stuks sztuk szt stycken',
  status: 'state statut estado stato staat état estat',
  name: 'intitulé encabezado cabeçalho nagłówek intestazione headline heading überschrift rubriek headings nom nombre nome naam nazwa namn bezeichnung bez benennung désignation designation denominación denominazione designação benämning benaming libellé intitulé titel titre título titolo tytuł title names',
  description:
    'fließtext blurb beschreibung beschr descr description descriptif descripción descrizione omschrijving beschrijving opis descrição beskrivning desc descriptive descriptivo descrittivo',
  text: 'texte texto testo tekst',
  long: 'lang larga longue longa lunga uitgebreide długi szczegółowy detailed détaillée detallada dettagliata detalhada detaillierte ausführlich utförlig',
  short: 'kurz court courte corta breve kort krótki curto curta',
  image:
    'photograph photographs img pic picture photo foto bild imagen immagine afbeelding zdjęcie zdjęcia imagem fotografia fotografie images pictures photos fotos bilder imágenes immagini afbeeldingen imagens visuel grafika cover',
  link: 'url lien enlace länk adres adresse address href',
  page: 'seite página pagina strona sida webseite',
  colour:
    'shade shades hue tint teinte tono tonalidad tonalità tonalidade odcień nuance nyans farbton farbnuance color colours colors farbe farben couleur couleurs coloris colores colore colori kleur kleuren kolor kolory cor cores färg färger kulör',
  size: 'größe groesse taille talla taglia maat rozmiar tamanho storlek strl stl gr sizes misura medida medidas maten',
  material:
    'werkstoff stoff matière matériau tejido tessuto materiale materiaal materiał tecido tyg fabric stof tkanina metal metall métal metallo metaal legierung alloy',
  composition: 'zusammensetzung composición composizione samenstelling skład composição sammansättning',
  gender:
    'men women mens womens ladies damen herren männer frauen hommes femmes hombres mujeres uomo donna uomini donne mannen vrouwen mężczyzn kobiet homens mulheres herr dam geschlecht sexe sexo sesso género genre genere geslacht płeć kön sex',
  weight: 'wt gew gewicht poids peso waga vikt masa masse mass',
  width: 'w b breite largeur ancho anchura larghezza breedte szerokość largura bredd larg szer',
  height: 'h höhe hoehe hauteur alto altura altezza hoogte wysokość höjd haut wys',
  depth: 'd t tiefe profondeur fondo profundidad profondità diepte głębokość profundidade djup prof',
  length: 'l länge laenge longueur longitud lunghezza lengte długość comprimento längd',
  package:
    'boxed packed box karton carton doos pudełka pakket pakketten paczka paczek ship postage packaging pacco pacote frete paket packung verpackung versand colis emballage expédition paquete embalaje envío imballo imballaggio collo spedizione verpakking verzending paczki opakowania wysyłki embalagem envio frakt förpackning parcel packaging shipping box',
  country: 'land pays país paese kraj',
  origin: 'herkunft ursprung origine origen oorsprong herkomst pochodzenia pochodzenie origem provenance',
  manufacture:
    'herstellung fabrication fabricación fabricado fabbricazione produzione productie produkcji fabrico produktion tillverkning production made hergestellt fabriqué fabricada',
  maker:
    'verlag publisher éditeur editor editorial editore uitgever wydawca wydawnictwo editora förlag hersteller fabricant fabricante produttore fabrikant producent producenta tillverkare manufacturer producer mfr',
  supplier:
    'vendeur vendedor venditore verkoper sprzedawcy sprzedawca säljarens säljare merchant merchants händlers lieferant fournisseur proveedor fornitore leverancier dostawca dostawcy fornecedor leverantör vendor seller',
  brand: 'marke marque marca marchio merk marka märke varumärke',
  category:
    'kategorie catégorie categoría categoria categorie kategoria kategori rubrik rayon sección reparto abteilung avdelning dział department departments section sections range ranges',
  group: 'gruppe groupe grupo gruppo groep grupa grupp famille familia famiglia família family',
  condition: 'condizione condizioni conditie skick condição zustand',
  reference: 'ref réf référence referencia rif riferimento referência referentie symbol indeks',
  from: 'ab desde dal vanaf od från',
  start: 'starts beginn begins begin début inicio inizio początek início börjar',
  end: 'ends ende fin fine einde koniec fim slut until bis',
  fill: 'filling nettofüll',
  date: 'datum fecha data',
  release: 'erscheint erscheinung sortie lanzamiento uscita premiery lançamento verschijning',
  author: 'written autor auteur autore verfasser författare autora writer',
  own: 'interne interna interno intern internal eigene wewnętrzny',
  customs:
    'zoll douane douanier douanière aduana arancelaria arancelario dogana doganale celny celna pautal tull commodity hs tariff taric',
  diameter: 'dia diam durchmesser dm ø diamètre diámetro diametro średnica diâmetro',
  volume:
    'holds inhalt volumen fassungsvermögen contenance capacité capacidad contenido capacità contenuto inhoud pojemność objętość capacidade conteúdo volym rymd innehåll capacity contents content',
  binding:
    'hardback paperback hardcover softcover gebunden taschenbuch broché relié tapa rilegato einband bindung reliure encuadernación rilegatura bindwijze uitvoering oprawa encadernação bindning bookbinding',
  age: 'alter âge edad età leeftijd wiek idade ålder',
  minimum:
    'smallest least lowest kleinste geringste min mindest minimal minimale mínimo mínima minimo minima minimalna minimalny minsta',
  maximum:
    'max largest highest größte höchst maximal maximale máximo máxima massimo massima maksymalna maksymalny största högsta',
  used: 'gebraucht occasion usado usato gebruikt używany używane begagnad refurbished',
  manufacturer: 'erzeuger',
  order: 'bestellung commande pedido ordine bestelling zamówienie zamówienia encomenda beställning',
  warning:
    'warnung warnhinweis avertissement advertencia avvertenza waarschuwing ostrzeżenie aviso advertência varning hinweis notice caution',
  safety:
    'sicherheit sicherheits sécurité seguridad sicurezza veiligheid bezpieczeństwa bezpieczeństwo segurança säkerhet security',
  expiry:
    'mhd haltbar ablauf péremption caducidad scadenza houdbaar ważności validade utgång expiration dluo expires',
  sowing: 'aussaat semis siembra semina zaai wysiewu wysiew siew sementeira sådd sow',
  energy: 'energie énergie énergétique energía energética energetica energetyczna energia energi',
  class: 'klasse klass classe clase klasa rating',
  pattern: 'muster motif estampado motivo patroon wzór deseń padrão mönster dekor',
  crossed:
    'streich durchgestrichen barré tachado barrato doorgestreept przekreślona riscado överstruken struck',
  whom: 'wen qui quién chi wie kogo quem vem',
  type: 'art kind typ tipo tipologia soort rodzaj sorte',
});
const meanings = ([word, others]: readonly [string, string]) =>
  others.split(' ').map((other) => [fold(other), word] as const);
// What a word means in one of the first nine languages stands before what it means in another.
const about: ReadonlyMap<string, string> = new Map([
  ...Object.entries(furtherAbout).flatMap(meanings),
  ...firstAbout.flatMap(([word, others]) => [[word, word] as const, ...meanings([word, others])]),
]);

/** Headings by what their words are about, in any order, beside those that the names above give. */
const combinations: Readonly<Record<string, string>> = {
  sku: 'code stock|reference supplier|code own|reference own|code reference|reference|code supplier|code',
  name: 'name|name sale',
  saleStarts:
    'sale start|discount start|discount from|date discount start|start sale|sale from|date sale start|from sale|date sale start',
  saleEnds: 'end sale|discount end|date discount end|day end sale|date end sale',
  description:
    'description|description long|description full|blurb|text description|description text|text long|text',
  price:
    'price|end price|price current|price new|price final|price retail|price gross|price tax|price retail tax|price gross tax|price retail gross|price retail gross tax|price final gross',
  listPrice:
    'price old|ahead discount price|price full|price recommended|price recommended retail|price recommended tax|price recommended gross tax|retail recommended',
  salePrice: 'price sale|discount price',
  cost: 'net price|net price tax|price purchase|price wholesale|price cost|purchase|wholesale|cost|cost net|purchase net|price purchase net|price wholesale net|price net purchase tax|cost quantity|cost current',
  inventoryLevel:
    'stock|quantity stock|status warehouse|warehouse|quantity available|stock current|stock warehouse|quantity warehouse|stock available|stock quantity warehouse|quantity|warehouse',
  availability: 'available|status stock|status available|stock',
  availabilityStarts: 'available from|release|release date|release from|date available',
  gtin: 'barcode|code barcode',
  image: 'image|image link|image page',
  url: 'link page|link|page|page address',
  color: 'colour|colour name',
  size: 'size|size name|gender size',
  material: 'material|composition|material composition|material manufacture',
  gender: 'gender|whom',
  weight: 'weight|weight net',
  packageWeight: 'weight package|order weight|weight gross',
  packageWidth: 'width package',
  packageHeight: 'height package',
  packageDepth: 'depth package|length package',
  width: 'width',
  height: 'height',
  depth: 'depth|length',
  countryOfOrigin:
    'country manufacturer|country maker|country origin|origin|country manufacture|country|manufacture',
  brand: 'brand|maker|brand name|maker name',
  mpn: 'code maker|reference maker',
  category: 'category|group|category name|group name|type',
  itemCondition: 'new used|condition|condition type|status condition',
  customsCode: 'customs|code customs',
  author: 'author|author name',
  volume: 'fill quantity|volume|size volume',
  diameter: 'diameter',
  bookFormat: 'binding|binding type|book binding',
  ageRange: 'age|age minimum|age recommended|age from',
  warning: 'warning|warning safety|safety',
  energyClass: 'class energy|energy',
  sowBy: 'expiry|expiry date|sowing|sowing date',
  maximumOrder: 'maximum order|maximum quantity|maximum order quantity',
  minimumOrder: 'minimum order|minimum quantity|minimum order quantity',
  pattern: 'pattern',
};

/** What a heading is about. */
export interface HeadingMeaning {
  /** What its words are about, each once, in alphabetical order. */
  readonly about: string;
  /** Whether every word of it was understood. */
  readonly whole: boolean;
}

/** Words that alone say too little where others beside them were not understood. */
const vague = new Set([
  'supplier',
  'code',
  'name',
  'text',
  'status',
  'type',
  'group',
  'date',
  'own',
  'from',
  'new',
  'full',
  'country',
]);

/**
 * What the words of a heading are about: "Cód. artigo", "Código do artigo" and "Artikelnummer" are one. Undefined where no
 * word says anything.
 * @param english what a word is in English, for words that are not in the list here
 */
export function headingMeaning(
  heading: string,
  english: (word: string) => readonly string[] = () => [],
): HeadingMeaning | undefined {
  const all = fold(heading).split(' ');
  // A letter by itself joins words ("w", "d’", "l’"); where it is all there is it says what is measured.
  const letters = all.every((word) => word.length === 1 || idle.has(word) || /^\d+$/.test(word));
  const found = new Set<string>();
  let complete = true;
  for (const word of all) {
    if (word === '' || /^\d+$/.test(word) || (word.length === 1 && !letters)) continue;
    const meant = meaningOfWord(word, english);
    complete &&= meant?.whole === true;
    for (const one of meant?.about ?? []) found.add(one);
  }
  if (found.size === 0 || (!complete && [...found].every((one) => vague.has(one)))) return undefined;
  return { about: [...found].sort().join(' '), whole: complete };
}

/** What joins the parts of a word. */
const linkings = ['', 's', 'n', 'en', 'e'];

interface WordMeaning {
  readonly about: readonly string[];
  readonly whole: boolean;
}

/** What one word is about: nothing for an idle one, undefined for one that is not understood. */
function meaningOfWord(word: string, english: (word: string) => readonly string[]): WordMeaning | undefined {
  const known = about.get(word);
  if (known !== undefined) return { about: [known], whole: true };
  if (idle.has(word)) return { about: [], whole: true };
  // A form of one that is known: "des Pakets", "paketets", "holds".
  for (const ending of endings) {
    const base = word.endsWith(ending) ? word.slice(0, -ending.length) : '';
    const form = base.length > 3 ? about.get(base) : undefined;
    if (form !== undefined) return { about: [form], whole: true };
  }
  // A word put together of two that are known, as Germanic languages do: "Produkttitel", "Kleurnaam".
  const part = (one: string) => one.length > 2 && (about.has(one) || idle.has(one));
  for (let at = 3; at <= word.length - 3; at++) {
    const [before, after] = [word.slice(0, at), word.slice(at)];
    if (!part(after)) continue;
    for (const first of linkings
      .filter((one) => before.endsWith(one))
      .map((one) => before.slice(0, before.length - one.length)))
      if (part(first)) return { about: [first, after].flatMap((one) => about.get(one) ?? []), whole: true };
  }
  // What a longer word is about stands at its end: "Gesamthöhe" is a height, of whatever.
  for (let at = 3; at <= word.length - 4; at++) {
    const end = about.get(word.slice(at));
    if (end !== undefined && !vague.has(end)) return { about: [end], whole: false };
  }
  for (const phrase of english(word)) {
    const words = fold(phrase).split(' ');
    const meant = words.flatMap((one) => about.get(one) ?? []);
    if (meant.length > 0 && words.every((one) => about.has(one) || idle.has(one)))
      return { about: meant, whole: true };
  }
  return undefined;
}

/** What a form of a noun may end in, the longest first. */
const endings = ['ets', 'ens', 'es', 'et', 'en', 'er', 's', 'n', 't'];

/** The names by attribute code. */
export const headingLexicon: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries(words).map(([code, text]) => [
    code,
    [
      ...new Set(
        `${text}|${headingPhrases[code] ?? ''}|${furtherNames[code] ?? ''}`
          .split('|')
          .map((word) => word.replace(/\s+/g, ' ').trim())
          .filter((word) => word !== ''),
      ),
    ],
  ]),
);

const sorted = (words: string): string => words.split(' ').sort().join(' ');
/** The attributes that each combination names. */
const named = new Map<string, Set<string>>();
for (const [code, text] of Object.entries(combinations))
  for (const one of text.split('|')) {
    const about = sorted(one);
    named.set(about, (named.get(about) ?? new Set()).add(code));
  }

/** What headings of each attribute are about ({@link HeadingMeaning.about}). A combination above is only whose it says. */
export const headingMeanings: ReadonlyMap<string, ReadonlySet<string>> = new Map(
  [...new Set([...Object.keys(words), ...Object.keys(combinations)])].map((code) => [
    code,
    new Set([
      ...(headingLexicon.get(code) ?? []).flatMap((word) => {
        const meaning = headingMeaning(word);
        return meaning?.whole && (named.get(meaning.about)?.has(code) ?? true) ? [meaning.about] : [];
      }),
      ...[...named].flatMap(([about, codes]) => (codes.has(code) ? [about] : [])),
    ]),
  ]),
);

const solid = (text: string): string => fold(text).replace(/ /g, '');
const solidNames = new Map([...headingLexicon].map(([code, names]) => [code, new Set(names.map(solid))]));

/** Whether a heading is one of an attribute's names as it stands, however it is spelled. */
export const isHeadingOf = (code: string, heading: string): boolean =>
  solidNames.get(code)?.has(solid(heading)) === true;
