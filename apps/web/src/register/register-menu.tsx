import type { SessionView } from '@drive-keep/api';
import { Menu, MenuFile, MenuRule, MenuWay } from '../ui/menu.tsx';

/** Ways to change the register and to take it along. */
export function RegisterMenu({ session }: { session: SessionView | undefined }) {
  const mayChange = session?.may.register ?? false;
  return (
    <Menu
      name={mayChange ? 'Change the register' : 'More'}
      className="ml-auto h-9 border border-rule bg-sheet px-3 max-lg:h-12"
    >
      {mayChange && (
        <>
          <MenuWay to="/positions/new">Add a position</MenuWay>
          <MenuWay to="/register/plant-list">Take in a plant list</MenuWay>
          <MenuWay to="/register/places">Rename or move areas and machines</MenuWay>
        </>
      )}
      {session && session.role !== 'viewer' && (
        <MenuWay to="/register/find-units">Find units on a line</MenuWay>
      )}
      <MenuWay to="/drafts">First settings</MenuWay>
      <MenuWay to="/motors">Motors</MenuWay>
      <MenuWay to="/?state=retired&as=table">Show retired positions</MenuWay>
      <MenuWay to="/register/labels">Labels for cabinets</MenuWay>
      <MenuRule />
      {(['csv', 'xlsx'] as const).map((format) => (
        <MenuFile key={format} href={`/api/plant-list?format=${format}`}>
          Save the plant list as {format.toUpperCase()}
        </MenuFile>
      ))}
    </Menu>
  );
}
