/** Pictures of a set for services that fetch them by their address. */
import { Controller, Get, Param, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import type { Response } from 'express';
import { Access } from '../accounts/access.js';
import { gone } from '../platform/problem.js';
import { SentPicture } from './entities.js';
import { isGivenOut } from './means.js';

@ApiTags('connections')
@Controller()
export class PicturesController {
  constructor(private readonly em: EntityManager) {}

  /** A picture by the address that a service was given with what was sent to it. */
  @Get('pictures/:setId/:hash/:mark')
  @Access('public')
  async picture(@Param('setId') setId: string, @Param('hash') hash: string, @Param('mark') mark: string, @Res() res: Response): Promise<void> {
    if (!isGivenOut(setId, hash, mark)) throw gone('picture');
    const row = await this.em.fork().findOne(SentPicture, { set: setId, hash });
    if (!row) throw gone('picture');
    res
      .set({
        'cache-control': 'public, max-age=86400, immutable',
        'content-security-policy': "default-src 'none'; sandbox",
        'cross-origin-resource-policy': 'cross-origin',
      })
      .type(row.mediaType)
      .send(row.bytes);
  }
}
