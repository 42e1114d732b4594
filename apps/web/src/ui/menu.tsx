import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

const ENTRY = 'block rounded px-3 py-2 text-sm outline-none data-highlighted:bg-plum-wash max-lg:py-3.5';

interface Props {
  /** What stands on the button. */
  readonly name: ReactNode;
  /** For readers, where the name alone does not say it. */
  readonly label?: string;
  readonly align?: 'start' | 'end';
  /** Size and place of the button. */
  readonly className: string;
  readonly children: ReactNode;
}

/** A button that opens a list of ways on. */
export function Menu({ name, label, align = 'end', className, children }: Props) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        {...(label === undefined ? {} : { 'aria-label': label })}
        className={`inline-flex items-center gap-1.5 rounded text-sm ${className}`}
      >
        {name} <ChevronDown className="size-4" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          className="z-20 min-w-48 rounded border border-rule bg-sheet p-1 shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Leads to a screen. */
export function MenuWay({ to, children }: { to: string; children: ReactNode }) {
  return (
    <DropdownMenu.Item asChild>
      <Link to={to} className={ENTRY}>
        {children}
      </Link>
    </DropdownMenu.Item>
  );
}

/** Does something at once. */
export function MenuDoing({ act, children }: { act: () => void; children: ReactNode }) {
  return (
    <DropdownMenu.Item onSelect={act} className={`${ENTRY} cursor-pointer`}>
      {children}
    </DropdownMenu.Item>
  );
}

/** Saves a file. */
export function MenuFile({ href, children }: { href: string; children: ReactNode }) {
  return (
    <DropdownMenu.Item asChild>
      <a href={href} download className={ENTRY}>
        {children}
      </a>
    </DropdownMenu.Item>
  );
}

export const MenuRule = () => <DropdownMenu.Separator className="my-1 border-t border-rule" />;
