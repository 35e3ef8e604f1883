import {
  type Answer,
  addsUp,
  type Call,
  one,
  type Problem,
  type Row,
  readTable,
  Service,
  type World,
} from './kit';

const wanted = ['calle', 'numero', 'codigo_postal', 'ciudad', 'provincia'];

/** The simulated regional marketplace Plazuela Norte: semicolons, decimal commas, Spanish; nothing is taken without an address. */
export class PlazuelaNorte extends Service {
  constructor(world: World) {
    super('plazuela-norte', 'Plazuela Norte', world, { count: 4, minutes: 60 });
    // The merchant of the demo has filled it in; the watch page can take it away.
    if (Object.keys(this.kept.merchant).length === 0)
      Object.assign(this.kept.merchant, {
        calle: 'Moosweg',
        numero: '7',
        codigo_postal: '95200',
        ciudad: 'Farnfeld',
        provincia: 'Norte',
      });
  }

  private judge(row: Row): Problem[] {
    const text = (name: string) => one(row, name);
    const problems: Problem[] = [];
    const say = (code: string, field: string, words: string) => problems.push({ code, field, text: words });
    const titulo = text('titulo');
    if (titulo === '' || titulo.length > 120) say('PN01', 'titulo', 'Título: entre 1 y 120 caracteres');
    if (text('seccion') === '') say('PN02', 'categoria', 'Sección: falta');
    if (!/^\d+(,\d{1,2})?( EUR)?$/.test(text('precio'))) say('PN03', 'precio', 'Precio: se espera 12,50');
    if (text('codigo_barras') !== '' && !addsUp(text('codigo_barras')))
      say('PN04', 'codigo_barras', 'Código de barras: dígito de control');
    if (!/^\d+$/.test(text('existencias'))) say('PN05', 'existencias', 'Existencias: número entero');
    if (text('descripcion').length < 20) say('PN06', 'descripcion', 'Descripción: demasiado corta');
    return problems;
  }

  answer(call: Call): Answer | Promise<Answer> {
    if (call.method === 'POST' && call.path === '/cargas') {
      return this.once(call, () => {
        const complete = wanted.every((name) => this.kept.merchant[name]);
        const rows = readTable(call.body.toString('utf8'), ';');
        let refused = 0;
        const answers = rows.map((row) => {
          const referencia = one(row, 'referencia');
          if (one(row, 'accion') === 'baja') {
            delete this.kept.listings[referencia];
            return { referencia, resultado: 'aceptado', errores: [] };
          }
          const problems = complete
            ? this.judge(row)
            : [{ code: 'PN00', field: null, text: 'Dirección del vendedor incompleta' }];
          if (problems.length === 0)
            return {
              referencia,
              resultado: 'aceptado',
              anuncio: this.hold(referencia, row, 'PN'),
              errores: [],
            };
          refused++;
          this.refuse(referencia, problems);
          return {
            referencia,
            resultado: 'rechazado',
            errores: problems.map(({ code, field, text }) => ({ codigo: code, campo: field, texto: text })),
          };
        });
        return { answers, refused };
      });
    }
    const report = /^\/cargas\/([\w-]+)$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(report, {
        working: { estado: 'en curso' },
        done: (resultados) => ({ estado: 'listo', resultados }),
      });
    if (call.method === 'POST' && call.path === '/direccion') {
      this.kept.merchant = JSON.parse(call.body.toString('utf8'));
      this.save();
      return { status: 200, body: this.kept.merchant };
    }
    return { status: 404, body: { error: 'nada aquí' } };
  }

  protected override receipt(id: string): Answer {
    return { status: 202, body: { carga: id } };
  }
}
