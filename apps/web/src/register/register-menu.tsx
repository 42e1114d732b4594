import type { Role } from '@drive-keep/api';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Link } from 'react-router';

const ITEM = 'block rounded px-3 py-2 text-sm outline-none data-highlighted:bg-plum-wash max-lg:py-3.5';

/** Ways to change the register and to take it along. */
export function RegisterMenu({ role }: { role: Role }) {
  const name = role === 'engineer' ? 'Change the register' : 'More';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="ml-auto flex h-9 items-center gap-2 rounded border border-rule bg-sheet px-3 text-sm max-lg:h-12">
        {name} <ChevronDown className="size-4" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-20 min-w-64 rounded border border-rule bg-sheet p-1 shadow-lg"
        >
          {role === 'engineer' && (
            <>
              <Entry to="/positions/new">Add a position</Entry>
              <Entry to="/register/plant-list">Take in a plant list</Entry>
              <Entry to="/register/places">Rename or move areas and machines</Entry>
            </>
          )}
          {role !== 'viewer' && <Entry to="/register/find-units">Find units on a line</Entry>}
          <Entry to="/motors">Motors</Entry>
          <Entry to="/?state=retired&as=table">Show retired positions</Entry>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          {(['csv', 'xlsx'] as const).map((format) => (
            <DropdownMenu.Item key={format} asChild>
              <a href={`/api/plant-list?format=${format}`} download className={ITEM}>
                Save the plant list as {format.toUpperCase()}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Entry({ to, children }: { to: string; children: React.ReactNode }) {
  return (
    <DropdownMenu.Item asChild>
      <Link to={to} className={ITEM}>
        {children}
      </Link>
    </DropdownMenu.Item>
  );
}
