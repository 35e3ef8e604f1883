import { changeCase } from './letterCase';

/** Titles in nine languages. English by the Chicago Manual of Style, 8.159; Dutch ij by the Taalunie; the rest common practice. */
test.each([
  ['en', 'a bell of clear glass', 'A Bell of Clear Glass'],
  ['en', 'ridge pot with drip tray and felt feet', 'Ridge Pot with Drip Tray and Felt Feet'],
  ['en', 'USB-C lamp, 14 cm, for an iPad', 'USB-C Lamp, 14 cm, for an iPad'],
  ['en', 'the pot: a saucer', 'The Pot: A Saucer'],
  ['en', 'grow light 18 W', 'Grow Light 18 W'],
  ['de', 'topf mit Untersetzer für die Küche', 'Topf mit Untersetzer für die Küche'],
  ['de', 'große Gießkanne aus Zink, 5 l', 'Große Gießkanne aus Zink, 5 l'],
  ['de', 'übertopf im skandinavischen Stil', 'Übertopf im Skandinavischen Stil'],
  ['fr', 'pot d’argile pour l’intérieur', 'Pot d’Argile pour l’Intérieur'],
  ['fr', "l'arrosoir à long bec", "L'Arrosoir à Long Bec"],
  ['fr', 'écharpe en laine et coton', 'Écharpe en Laine et Coton'],
  ['es', 'maceta de barro con plato', 'Maceta de Barro con Plato'],
  ['es', 'regadera para el balcón', 'Regadera para el Balcón'],
  ['es', 'ñandú y árbol', 'Ñandú y Árbol'],
  ['it', "vaso dell'erba per la cucina", "Vaso dell'Erba per la Cucina"],
  ['it', 'innaffiatoio in zinco da 5 l', 'Innaffiatoio in Zinco da 5 l'],
  ['it', 'sottovaso e piedini', 'Sottovaso e Piedini'],
  ['nl', 'ijzeren gieter met lange tuit', 'IJzeren Gieter met Lange Tuit'],
  ['nl', 'pot van steengoed voor het raam', 'Pot van Steengoed voor het Raam'],
  ['nl', 'de gieter', 'De Gieter'],
  ['pl', 'doniczka z ceramiki i podstawka', 'Doniczka z Ceramiki i Podstawka'],
  ['pl', 'świeca do łazienki', 'Świeca do Łazienki'],
  ['pl', 'konewka 2 l dla dzieci', 'Konewka 2 l dla Dzieci'],
  ['pt', 'vaso de barro com prato', 'Vaso de Barro com Prato'],
  ['pt', 'água para as plantas', 'Água para as Plantas'],
  ['pt', 'o regador', 'O Regador'],
  ['sv', 'kruka med fat och filtfötter', 'Kruka med Fat och Filtfötter'],
  ['sv', 'ängslig växt på hylla', 'Ängslig Växt på Hylla'],
  ['sv', 'vattenkanna för balkong', 'Vattenkanna för Balkong'],
])('%s: %s', (language, text, title) => {
  expect(changeCase(text, 'title', language)).toBe(title);
  // A second time changes nothing.
  expect(changeCase(title, 'title', language)).toBe(title);
});

test.each([
  ['nl', 'ijskoffie in een glas', 'IJskoffie in een glas'],
  ['fr', 'élan de bois', 'Élan de bois'],
  ['en', '“ridge” pot', '“Ridge” pot'],
  ['de', '10 cm Topf', '10 cm Topf'],
  ['en', '', ''],
])('%s, like a sentence: %s', (language, text, sentence) => {
  expect(changeCase(text, 'sentence', language)).toBe(sentence);
});
