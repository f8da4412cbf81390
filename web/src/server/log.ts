import pino from 'pino';

export const log = pino({ level: process.env['OVREL_LOG'] ?? 'warn' });
