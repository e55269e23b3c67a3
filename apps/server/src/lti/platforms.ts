/** Platforms that a workspace's quizzes can be opened from: registered by the platform's own registration, or by hand. */
import { Body, Controller, Delete, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiParam, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, storable } from '@zakuska/core';
import { IsOptional, IsString, IsUrl, Length, MaxLength } from 'class-validator';
import { Access, Gives, WorkspaceId } from '../accounts/access.js';
import { Workspace } from '../accounts/entities.js';
import { isPrivateHost } from '../platform/outside.js';
import { Problem } from '../platform/problem.js';
import { settings } from '../platform/settings.js';
import { LtiPlatform } from './entities.js';
import { scopes } from './messages.js';
import { askPlatform, at, json } from './tool.js';

const TOOL = 'https://purl.imsglobal.org/spec/lti-tool-configuration';
const PLATFORM = 'https://purl.imsglobal.org/spec/lti-platform-configuration';
/** Addresses of platforms may be any of the web, also in a school's own network. */
const URLS = { require_tld: false, require_protocol: true, protocols: ['http', 'https'] };

class PlatformBody {
  @ApiProperty() @IsString() @Length(1, 200) name!: string;
  @ApiProperty() @IsString() @Length(1, 500) issuer!: string;
  @ApiProperty() @IsString() @Length(1, 300) clientId!: string;
  @ApiProperty() @IsString() @Length(1, 300) deployment!: string;
  @ApiProperty({ description: 'Where it signs people in (OpenID Connect).' }) @IsUrl(URLS) @MaxLength(1000) authUrl!: string;
  @ApiProperty({ description: 'Where it gives access tokens.' }) @IsUrl(URLS) @MaxLength(1000) tokenUrl!: string;
  @ApiProperty({ description: 'Where its public keys are.' }) @IsUrl(URLS) @MaxLength(1000) jwksUrl!: string;
}
class RegistrationBody {
  @ApiProperty({ description: 'Where the platform describes itself.' }) @IsUrl(URLS) @MaxLength(1000) configuration!: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(5000) token?: string;
}
class PlatformView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty() issuer!: string;
  @ApiProperty() clientId!: string;
  @ApiProperty({ type: [String] }) deployments!: string[];
  @ApiProperty() createdAt!: string;
}
class ToolView {
  @ApiProperty({ description: 'For platforms that register a tool by its address.' }) registration!: string;
  @ApiProperty() login!: string;
  @ApiProperty() launch!: string;
  @ApiProperty() keys!: string;
  @ApiProperty({ type: [PlatformView] }) platforms!: PlatformView[];
}

/** What a platform says of itself (LTI Dynamic Registration 1.0). */
interface Configuration {
  issuer?: string;
  authorization_endpoint?: string;
  token_endpoint?: string;
  jwks_uri?: string;
  registration_endpoint?: string;
  [PLATFORM]?: { product_family_code?: string };
}
interface Registered {
  client_id?: string;
  [TOOL]?: { deployment_id?: string };
}

@ApiTags('lti')
@Controller()
export class PlatformsController {
  constructor(private readonly em: EntityManager) {}

  @Get('workspaces/:workspace/platforms')
  @Gives(ToolView)
  @ApiParam({ name: 'workspace' })
  @Access('reader')
  async list(@WorkspaceId() workspace: string): Promise<ToolView> {
    const all = await this.em.fork().find(LtiPlatform, { workspace }, { orderBy: { createdAt: 'asc' } });
    return { registration: `${settings().publicUrl}/course/register`, login: at('login'), launch: at('launch'), keys: at('keys'), platforms: all.map(view) };
  }

  /** By hand, with what the platform shows. A platform that is known gets one more deployment. */
  @Post('workspaces/:workspace/platforms')
  @Gives(PlatformView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async add(@WorkspaceId() workspace: string, @Body() body: PlatformBody): Promise<PlatformView> {
    for (const url of [body.authUrl, body.tokenUrl, body.jwksUrl]) reachable(url);
    return this.keep(workspace, body);
  }

  /** By the platform's own registration: reads what it says of itself, and tells it what this tool is. */
  @Post('workspaces/:workspace/platforms/registrations')
  @Gives(PlatformView)
  @ApiParam({ name: 'workspace' })
  @Access('administrator')
  async register(@WorkspaceId() workspace: string, @Body() { configuration, token }: RegistrationBody): Promise<PlatformView> {
    reachable(configuration);
    const named = { name: new URL(configuration).host };
    const wrong = (why: string): Problem =>
      new Problem(422, 'registration-failed', `The platform could not be registered: ${why}. Register it by hand, or ask who runs it.`);
    const answer = await askPlatform(named, configuration, { headers: { accept: 'application/json' } });
    if (answer.status !== 200) throw wrong('it does not say what it is');
    const said = json<Configuration>(answer, named);
    const { issuer, authorization_endpoint: authUrl, token_endpoint: tokenUrl, jwks_uri: jwksUrl, registration_endpoint: endpoint } = said;
    if (!issuer || !authUrl || !tokenUrl || !jwksUrl || !endpoint) throw wrong('an address is missing in what it says of itself');
    // it may speak for itself only
    if (!URL.canParse(issuer) || new URL(issuer).origin !== new URL(configuration).origin) throw wrong('it names another platform than the one that was asked');
    for (const url of [authUrl, tokenUrl, jwksUrl, endpoint]) {
      if (!URL.canParse(url)) throw wrong('an address is none in what it says of itself');
      reachable(url);
    }
    const asked = await askPlatform(named, endpoint, {
      method: 'POST',
      headers: { 'content-type': 'application/json', accept: 'application/json', ...(token && { authorization: `Bearer ${token}` }) },
      body: JSON.stringify(toolConfiguration()),
    });
    if (asked.status >= 300) throw wrong('it refused this tool');
    const made = json<Registered>(asked, named);
    const deployment = made[TOOL]?.deployment_id;
    if (!made.client_id || !deployment) throw wrong('it gave no client id or no deployment');
    return this.keep(workspace, {
      name: said[PLATFORM]?.product_family_code ?? named.name,
      issuer,
      clientId: made.client_id,
      deployment,
      authUrl,
      tokenUrl,
      jwksUrl,
    });
  }

  @Delete('platforms/:platform')
  @HttpCode(204)
  @Access('administrator')
  async remove(@Param('platform') id: string): Promise<void> {
    await this.em.fork().nativeDelete(LtiPlatform, { id });
  }

  private async keep(workspace: string, b: PlatformBody): Promise<PlatformView> {
    const em = this.em.fork();
    const there = await em.findOne(LtiPlatform, { issuer: b.issuer, clientId: b.clientId });
    if (there && there.workspace.id !== workspace) throw new Problem(409, 'platform-taken', 'This platform is registered for another workspace already.');
    const deployment = storable(b.deployment);
    const p =
      there ??
      em.create(LtiPlatform, {
        id: newId(),
        workspace: em.getReference(Workspace, workspace),
        name: storable(b.name),
        issuer: storable(b.issuer),
        clientId: storable(b.clientId),
        authUrl: b.authUrl,
        tokenUrl: b.tokenUrl,
        jwksUrl: b.jwksUrl,
        deployments: [],
      });
    if (!p.deployments.includes(deployment)) p.deployments = [...p.deployments, deployment];
    await em.persistAndFlush(p);
    return view(p);
  }
}

/** @throws Problem where an address lies in a private network and was not allowed */
function reachable(url: string): void {
  if (isPrivateHost(new URL(url), settings().platformHosts))
    throw new Problem(422, 'address-refused', 'An address of the platform lies inside a private network. Whoever runs this server can allow it.');
}

/** This tool, as platforms register it (OpenID Connect Dynamic Client Registration 1.0 with the LTI tool configuration). */
function toolConfiguration(): object {
  const { host } = new URL(settings().publicUrl);
  return {
    application_type: 'web',
    response_types: ['id_token'],
    grant_types: ['implicit', 'client_credentials'],
    initiate_login_uri: at('login'),
    redirect_uris: [at('launch')],
    client_name: 'Zakuska',
    jwks_uri: at('keys'),
    token_endpoint_auth_method: 'private_key_jwt',
    id_token_signed_response_alg: 'RS256',
    scope: Object.values(scopes).join(' '),
    [TOOL]: {
      domain: host,
      target_link_uri: at('launch'),
      claims: ['iss', 'sub', 'name', 'given_name', 'family_name', 'email'],
      messages: [
        { type: 'LtiResourceLinkRequest', target_link_uri: at('launch') },
        { type: 'LtiDeepLinkingRequest', target_link_uri: at('launch'), label: 'Choose a quiz' },
      ],
    },
  };
}

const view = ({ id, name, issuer, clientId, deployments, createdAt }: LtiPlatform): PlatformView => ({
  id,
  name,
  issuer,
  clientId,
  deployments,
  createdAt: createdAt.toISOString(),
});
