/** Where the person is: the address bar is the only copy. */
class Router {
  path = $state(location.pathname);

  constructor() {
    addEventListener('popstate', () => (this.path = location.pathname));
  }

  go(path: string, replace = false): void {
    if (path === this.path) return;
    history[replace ? 'replaceState' : 'pushState'](null, '', path);
    this.path = path;
  }

  /** The number in /kind/number, or in /kind/number/page, or null. */
  id(kind: string, page = ''): number | null {
    const found = new RegExp(`^/${kind}/(\\d+)${page && `/${page}`}/?$`).exec(this.path);
    return found ? Number(found[1]) : null;
  }

  /** The word in /kind/word, or null. */
  word(kind: string): string | null {
    return new RegExp(`^/${kind}/([\\w-]+)/?$`).exec(this.path)?.[1] ?? null;
  }
}

export const router = new Router();

/** An action for links inside the application. */
export function link(node: HTMLAnchorElement): { destroy: () => void } {
  const follow = (event: MouseEvent) => {
    if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return;
    event.preventDefault();
    router.go(node.pathname);
  };
  node.addEventListener('click', follow);
  return { destroy: () => node.removeEventListener('click', follow) };
}
