// npm run demo: installs, builds and starts Keen Fox with its demo day, and prints the address.
import { build, installPackages, serve } from './machine.mjs';

const port = Number(process.env.PORT ?? 4180);
if (!Number.isInteger(port) || port < 1 || port > 65_535) {
  console.error(`PORT must be a whole number from 1 to 65535, not “${process.env.PORT}”.`);
  process.exit(1);
}
installPackages();
build();
try {
  const { child, address } = await serve(port);
  console.log(`\nKeen Fox runs at ${address}\nThe demo day stands at 09:10 New York time. Ctrl+C stops.`);
  const stop = () => {
    child.removeAllListeners('exit');
    child.on('exit', () => process.exit(0));
    child.kill('SIGTERM');
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
} catch (e) {
  console.error(e.message);
  process.exit(1);
}
