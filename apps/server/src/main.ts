import 'reflect-metadata';
import type { Server } from 'node:http';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AppModule, setUp } from './app.js';
import { settings } from './platform/settings.js';

let began = 0;
// a spare has its modules loaded and begins when the process before it has ended; it goes when nobody can tell it to
if (process.env['SPARE']) {
  const orphaned = (): void => process.exit(0);
  process.once('disconnect', orphaned);
  await new Promise((begin) => process.once('message', begin));
  process.off('disconnect', orphaned);
  process.disconnect();
  began = performance.now();
}
const app = await NestFactory.create<NestExpressApplication>(AppModule, { bufferLogs: true, bodyParser: false });
await setUp(app);
if (settings().role === 'worker') {
  await app.init();
  console.log(`worker ready in ${Math.round(performance.now() - began)} ms`);
} else {
  const http = app.getHttpServer() as Server;
  // longer than what stands in front keeps its connections, so that none is closed while a request is on its way
  http.keepAliveTimeout = 75_000;
  http.headersTimeout = 80_000;
  await app.listen(settings().port, process.env['HOST'] ?? '127.0.0.1');
  console.log(`ready on ${settings().port} in ${Math.round(performance.now() - began)} ms`);
}
