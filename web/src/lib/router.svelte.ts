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

  /** The number in /kind/number, or null. */
  id(kind: string): number | null {
    const found = new RegExp(`^/${kind}/(\\d+)/?$`).exec(this.path);
    return found ? Number(found[1]) : null;
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
