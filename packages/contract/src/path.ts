/** The names of a path's parameters. @example ParamName<'/moves/:reference/steps/:stepId/sign'> // 'reference' | 'stepId' */
export type ParamName<P extends string> = P extends `${string}:${infer Rest}`
  ? Rest extends `${infer Name}/${infer Tail}`
    ? Name | ParamName<`/${Tail}`>
    : Rest
  : never;

/** What a path has to be filled with. */
export type PathParams<P extends string> = { readonly [Name in ParamName<P>]: string };

/**
 * Fills a path's parameters.
 * @example pathOf('/moves/:reference', { reference: 'MV-0042' }) // '/moves/MV-0042'
 */
export function pathOf<P extends string>(path: P, parameters: PathParams<P>): string {
  const values = new Map<string, string>(Object.entries(parameters));
  return path.replace(/:([a-zA-Z]+)/g, (_whole, name: string) => {
    const value = values.get(name);
    if (value === undefined) throw new RangeError(`the path ${path} needs ${name}`);
    return encodeURIComponent(value);
  });
}
