/**
 * What headings of suppliers' files call the attributes, in English, German, French, Spanish, Italian, Dutch, Polish,
 * Portuguese and Swedish, with the abbreviations of the trade. Common practice, no source. They are looked up beside the
 * names a merchant gives an attribute, and are not shown there.
 */
const words: Readonly<Record<string, string>> = {
  sku: `part no|part number|pos|material|model no|
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
  name: `desc|short desc|libellé court|
    title|product title|item title|short description|short text|description short|item description|article name|
    product|model name|heading|bezeichnung|bez|artikelbezeichnung|artikelbez|artikelname|produktbezeichnung|
    kurzbezeichnung|kurztext|name|titel|benennung|bezeichnung 1|désignation|désign|libellé|libellé produit|
    nom du produit|nom produit|intitulé|titre|nom|nombre|nombre del producto|título|denominación|artículo|
    nombre artículo|producto|nome|nome prodotto|titolo|denominazione|descrizione breve|prodotto|naam|productnaam|
    artikelnaam|omschrijving kort|titel|artikelomschrijving|nazwa|nazwa produktu|nazwa towaru|tytuł|nazwa artykułu|
    nome do produto|designação|título|nome|produto|namn|produktnamn|artikelnamn|benämning|titel`,
  description: `libellé long|texte long|desc long|long desc|descripción detallada|descrizione dettagliata|opis szczegółowy|descrição detalhada|utförlig beskrivning|
    product description|long text|description long|full description|html description|details|copy|marketing text|
    beschreibung|artikelbeschreibung|produktbeschreibung|langbeschreibung|langtext|detailbeschreibung|beschr|
    description|description longue|descriptif|texte|détails|description produit|
    descripción|descripción larga|detalle|texto|descripción del producto|
    descrizione|descrizione lunga|descrizione prodotto|testo|dettagli|
    beschrijving|omschrijving|productomschrijving|lange omschrijving|
    opis|opis produktu|opis długi|
    descrição|descrição longa|descrição do produto|
    beskrivning|produktbeskrivning|lång beskrivning|text`,
  brand: `mfr|mfg|manuf|
    make|label|brand name|marke|fabrikat|herst|hersteller|markenname|marque|fabricant|fabriquant|marca|fabricante|
    marchio|produttore|casa produttrice|merk|fabrikant|merknaam|marka|producent|märke|varumärke|tillverkare|fabrikat`,
  category: `kategoriepfad|category tree|chemin de catégorie|ruta de categoría|categoriepad|ścieżka kategorii|kategorisökväg|percorso categoria|
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
  price: `price|sales price|sell price|retail|price inc vat|price incl vat|gross|unit price|rsp|srp|price gross|
    verkaufspreis|vk|vk brutto|brutto|bruttopreis|preis|preis brutto|ladenpreis|vk preis|endpreis|vkpreis|
    preis inkl mwst|prix|prix de vente|prix ttc|pv ttc|pvttc|pv|prix unitaire|tarif|prix de vente ttc|precio|pvp|
    precio de venta|precio con iva|pvp iva incl|precio venta|tarifa|p v p|prezzo|prezzo di vendita|prezzo ivato|
    prezzo iva inclusa|prezzo al pubblico|prijs|verkoopprijs|prijs incl btw|consumentenprijs|vkp|cena|cena brutto|
    cena sprzedaży|cena detaliczna|preço|preço de venda|preço com iva|pvp|pris|försäljningspris|pris inkl moms|
    utpris|butikspris`,
  priceCurrency: `currency|curr|ccy|währung|wkz|waehrung|monnaie|devise|moneda|divisa|valuta|munt|waluta|moeda|valuta`,
  listPrice: `recommended retail price|rek pris|rekpris|rek price|empf preis|prix recommandé|adv prijs|cena rekomendowana|preço aconselhado|prezzo suggerito|
    msrp|rrp|list price|list|regular price|original price|was|
    uvp|unverbindliche preisempfehlung|listenpreis|katalogpreis|empf vk|
    prix conseillé|prix public|prix public conseillé|ppc|prix catalogue|prix barré|
    precio recomendado|precio de lista|precio anterior|pvr|precio de catálogo|
    prezzo consigliato|prezzo di listino|prezzo listino|
    adviesprijs|catalogusprijs|van prijs|
    cena katalogowa|cena sugerowana|cena regularna|
    preço recomendado|preço de tabela|preço de catálogo|
    rekommenderat pris|listpris|ordinarie pris|ca pris`,
  salePrice: `sale price|offer price|special price|promo price|reduced price|discount price|
    aktionspreis|angebotspreis|sonderpreis|reduziert|
    prix promo|prix promotionnel|prix soldé|prix réduit|
    precio de oferta|precio oferta|precio rebajado|oferta|
    prezzo promozionale|prezzo scontato|prezzo offerta|
    actieprijs|aanbiedingsprijs|
    cena promocyjna|
    preço promocional|preço de promoção|
    kampanjpris|reapris|extrapris`,
  cost: `trade|wholesale|dealer|
    cost|cost price|buy price|purchase price|trade price|wholesale price|dealer price|ek|ek netto|einkaufspreis|
    händlerpreis|ek preis|hek|prix d achat|prix achat|pa ht|prix de revient|precio de coste|coste|precio compra|
    precio de compra|prezzo di acquisto|prezzo d acquisto|costo|prezzo di costo|inkoopprijs|inkoop|inkoopprijs netto|
    cena zakupu|cena hurtowa|preço de custo|custo|preço de compra|inköpspris|inpris`,
  availability: `availability|stock status|in stock|delivery status|verfügbarkeit|lieferstatus|lagerstatus|lieferbarkeit|
    verfügbar|disponibilité|disponible|statut stock|disponibilidad|disponible|estado stock|disponibilità|disponibile|
    beschikbaarheid|voorraadstatus|leverbaar|dostępność|dostępny|stan dostępności|disponibilidade|disponível|
    tillgänglighet|lagerstatus`,
  availabilityStarts: `available from|release date|launch date|lieferbar ab|erscheinungsdatum|verfügbar ab|date de sortie|
    disponible à partir du|disponible desde|fecha de lanzamiento|disponibile dal|data di uscita|leverbaar vanaf|
    dostępny od|data premiery|disponível a partir de|tillgänglig från|releasedatum`,
  inventoryLevel: `qty in stock|quantity in stock|stock level|anzahl auf lager|stückzahl|quantité dispo|quantité disponible|unités en stock|unidades en stock|cantidad disponible|qtà disponibile|quantità disponibile|pezzi disponibili|aantal op voorraad|op voorraad|ilość na stanie|dostępna ilość|quantidade em stock|quantidade disponível|antal i lager|
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
  size: `size|sizes|größe|groesse|gr|konfektionsgröße|taille|pointure|talla|tamaño|taglia|misura|maat|afmeting|rozmiar|
    tamanho|storlek|stl`,
  diameter: `diameter|dia|durchmesser|dm|ø|diamètre|diam|diámetro|diametro|średnica|diâmetro|diameter`,
  material: `material|fabric|materials|werkstoff|stoff|materialzusammensetzung|matière|matériau|matériaux|composition|material|
    tejido|composición|materiale|tessuto|composizione|materiaal|stof|materiał|tworzywo|tecido|material`,
  pattern: `pattern|print|design|muster|dessin|motif|imprimé|estampado|dibujo|motivo|fantasia|patroon|dessin|wzór|deseń|
    padrão|estampa|mönster`,
  gender: `gender|sex|for whom|geschlecht|zielgruppe|sexe|genre|género|sexo|genere|sesso|geslacht|płeć|género|sexo|kön`,
  ageGroup: `age group|altersgruppe|groupe d âge|tranche d âge|grupo de edad|fascia d età|leeftijdsgroep|grupa wiekowa|
    faixa etária|åldersgrupp`,
  ageRange: `age|age range|recommended age|alter|altersempfehlung|âge|âge recommandé|edad|edad recomendada|età|età consigliata|
    leeftijd|wiek|idade|idade recomendada|ålder`,
  weight: `weight|net weight|item weight|wt|gewicht|gew|nettogewicht|artikelgewicht|poids|poids net|peso|peso neto|peso netto|
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
  countryOfOrigin: `country of manufacture|manufactured in|herstellungsland|produktionsland|pays de fabrication|país de fabricación|paese di produzione|land van productie|kraj produkcji|país de fabrico|
    country of origin|origin|made in|coo|herkunftsland|ursprungsland|ursprung|pays d origine|origine|
    país de origen|origen|paese di origine|paese d origine|origine|land van herkomst|herkomst|kraj pochodzenia|pochodzenie|
    país de origem|origem|ursprungsland|tillverkningsland`,
  customsCode: `hs code|hts|tariff code|commodity code|customs tariff|taric|zolltarifnummer|warennummer|stat warennr|
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
  minimumOrder: `moq|min qty|minimum quantity|min order qty|mindestmenge|mindestabnahme|mba|vpe|quantité minimum|qté min|
    cantidad mínima|pedido mínimo|quantità minima|minimale afname|minimum ilość|minimalna ilość|quantidade mínima|
    minsta antal|min antal`,
  maximumOrder: `max qty|maximum quantity|höchstmenge|quantité maximum|cantidad máxima|quantità massima|maximale afname|
    maksymalna ilość|quantidade máxima|högsta antal`,
  warning: `warning|safety notice|hazard statement|warnhinweis|sicherheitshinweis|avertissement|mise en garde|advertencia|
    avvertenza|avvertenze|waarschuwing|ostrzeżenie|aviso|advertência|varning`,
  use: `use|usage|application|suitable for|verwendung|anwendung|einsatzbereich|utilisation|usage|uso|aplicación|utilizzo|
    impiego|gebruik|toepassing|zastosowanie|utilização|användning`,
  highlights: `highlights|bullets|bullet points|key features|usp|features|merkmale|vorteile|produktmerkmale|points forts|
    caractéristiques|características|ventajas|caratteristiche|punti di forza|kenmerken|voordelen|cechy|zalety|
    características|vantagens|egenskaper|fördelar`,
  bookFormat: `binding|book format|cover type|einband|bindung|reliure|encuadernación|rilegatura|bindwijze|oprawa|
    encadernação|band|bandtyp`,
  batteries: `batteries|battery type|batterien|batterie|piles|pilas|pile|batterijen|baterie|pilhas|batterier`,
  shelfLife: `shelf life|haltbarkeit|mhd tage|durée de conservation|vida útil|durata|houdbaarheid|trwałość|
    prazo de validade|hållbarhet`,
  sowBy: `sow by|best before|expiry|expiry date|mhd|mindesthaltbar bis|à consommer avant|dluo|caducidad|fecha de caducidad|
    scadenza|houdbaar tot|data ważności|validade|bäst före`,
  family: `parent|parent sku|group code|item group|style group|variant group|family code|vater|vaterartikel|modell|modellnummer|
    hauptartikel|parent code|code modèle|modèle|référence mère|modelo|código padre|modello|codice padre|model|hoofdartikel|
    kod rodzica|grupa wariantów|modell nr|huvudartikel`,
};

/** The names by attribute code. */
export const headingLexicon: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries(words).map(([code, text]) => [
    code,
    [
      ...new Set(
        text
          .split('|')
          .map((word) => word.replace(/\s+/g, ' ').trim())
          .filter((word) => word !== ''),
      ),
    ],
  ]),
);
