/** What members of a workspace may do. Each role may do what those before it may. */

/** reader: sees sets and results; marker: marks answers too; editor: changes sets and delivers them; administrator: members, services, log; owner: everything. */
export const memberRoles = ['reader', 'marker', 'editor', 'administrator', 'owner'] as const;
/** One of them. */
export type MemberRole = (typeof memberRoles)[number];
/**
 * Whether a role may do what another role is needed for.
 * @param has none for somebody who is no member
 */
export const mayAs = (has: MemberRole | undefined, needs: MemberRole): boolean => has !== undefined && memberRoles.indexOf(has) >= memberRoles.indexOf(needs);
