import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AppModule, setUp } from './app.js';
import { settings } from './platform/settings.js';

const app = await NestFactory.create<NestExpressApplication>(AppModule, { bufferLogs: true, bodyParser: false });
await setUp(app);
if (settings().role === 'worker') {
  await app.init();
  console.log(`worker ready in ${Math.round(process.uptime() * 1000)} ms`);
} else {
  await app.listen(settings().port, process.env['HOST'] ?? '127.0.0.1');
  console.log(`ready on ${settings().port} in ${Math.round(process.uptime() * 1000)} ms`);
}
