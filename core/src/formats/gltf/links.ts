/** What the objects of a glTF file refer to (glTF 2.0, 5): each by the name of a list and a place in it. */

export type List =
  'meshes' | 'accessors' | 'bufferViews' | 'buffers' | 'materials' | 'textures' | 'images' | 'samplers';
export type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };

/** In objects of a list, which list a property's number is a place in. */
const named: Readonly<Partial<Record<List, Readonly<Record<string, List>>>>> = {
  meshes: { indices: 'accessors', material: 'materials', bufferView: 'bufferViews' },
  accessors: { bufferView: 'bufferViews' },
  bufferViews: { buffer: 'buffers' },
  materials: { index: 'textures' },
  textures: { source: 'images', sampler: 'samplers' },
  images: { bufferView: 'bufferViews' },
};
/** Objects of which every number is a place in the accessors. */
const ATTRIBUTES = new Set(['attributes', 'targets']);

/** A copy with other places: of what `linked` gives for each. */
export function withLinks(list: List, value: Json, linked: (list: List, place: number) => Json): Json {
  const links = named[list] ?? {};
  const copied = (at: Json, isAttributes: boolean, isExtension = false): Json => {
    if (Array.isArray(at)) return (at as readonly Json[]).map((one) => copied(one, isAttributes, isExtension));
    if (typeof at !== 'object' || at === null) return at;
    return Object.fromEntries(
      Object.entries(at).map(([name, said]): [string, Json] => {
        // Programs keep what they like there.
        if (name === 'extras') return [name, said];
        const to = isAttributes ? 'accessors' : links[name];
        if (typeof said === 'number') return [name, to === undefined ? said : linked(to, said)];
        // Extensions number attributes in their own ways.
        const within = isExtension || name === 'extensions';
        return [name, copied(said, list === 'meshes' && !within && ATTRIBUTES.has(name), within)];
      }),
    );
  };
  return copied(value, false);
}

/** Names of the extensions that an object makes use of. */
export function extensionsIn(value: Json | undefined): string[] {
  if (typeof value !== 'object' || value === null) return [];
  if (Array.isArray(value)) return (value as readonly Json[]).flatMap(extensionsIn);
  return Object.entries(value).flatMap(([name, said]) =>
    name === 'extensions' && typeof said === 'object' && said !== null
      ? [...Object.keys(said), ...extensionsIn(said)]
      : extensionsIn(said),
  );
}
