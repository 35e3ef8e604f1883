/** Each test worker has a database and a port for simulators of its own, so that files run beside each other. */
const worker = Number(process.env.JEST_WORKER_ID ?? 1);
process.env.LIVELY_DB_NAME = `lively_${worker}`;
const ports = (process.env.LIVELY_SIMULATORS_PORTS ?? '').split(',');
if (ports[worker - 1]) process.env.LIVELY_SIMULATORS_PORT = ports[worker - 1];
