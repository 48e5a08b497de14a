/** Kinds of link, as sightings have them. */
export const KINDS = ['ad', 'message', 'page', 'post', 'print', 'short-link', 'other'];
