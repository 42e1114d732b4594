import { describe, expect, it } from '@jest/globals';
import { guessColumns, headingTold, unitBehind, type ColumnUse } from './index.ts';

/** Headings by what they hold, in English, German, French, Spanish, Italian and Dutch. */
const HEADINGS: Readonly<Partial<Record<ColumnUse, string>>> = {
  code: 'Par. no.|P. No.|Param #|ID|Function code|Nr.|Parameter-Nr.|Parameternummer|N°|N° de paramètre|Nº|Código|N.|Codice|Nummer',
  name: 'Name|Designation|Bezeichnung|Désignation|Libellé|Nom|Denominación|Nombre|Denominazione|Nome|Naam|Benaming',
  description:
    'Parameter description|Remarks|Beschreibung|Bemerkung|Remarque|Descripción|Descrizione|Omschrijving|Opmerking',
  range:
    'Setting range|Min...Max|min/max|Wertebereich|Einstellbereich|Plage de réglage|Rango de ajuste|Campo|Instelbereik',
  minimum: 'Min.|Minimum value|Lower limit|Minimalwert|Kleinster Wert|Untergrenze|Valeur minimale|Mín|Minimo',
  maximum: 'Max|Upper limit|Maximalwert|Größter Wert|Obergrenze|Valeur maximale|Máximo|Massimo',
  default:
    'Factory setting|Default value|Initial value|Werkseinstellung|Grundeinstellung|Réglage usine|Valor por defecto|Valore di fabbrica|Fabrieksinstelling',
  unit: 'Units|Einheit|Unité|Unidad|Unità|Eenheid',
  resolution: 'Step|Scaling|Auflösung|Schrittweite|Résolution|Pas|Paso|Risoluzione|Stap',
  access: 'Access|R/W|Attr.|Read only|Zugriff|Änderbar|Accès|Lecture seule|Acceso|Sola lettura|Toegang',
  running:
    'Change while running|Changeable during run|Änderung im Betrieb|Modifiable en marche|Modificable en marcha|Modificabile in marcia|Wijzigbaar in bedrijf',
  options: 'Options|Selection|Auswahl|Choix|Opciones|Opzioni|Keuze',
  menu: 'Menu|Group|Gruppe|Groupe|Grupo|Gruppo|Groep',
  register: 'Modbus register|Register (hex)|Modbus-Adresse|Adresse Modbus|Dirección Modbus|Indirizzo Modbus',
};

describe('the headings of a list', () => {
  it.each(Object.entries(HEADINGS).flatMap(([use, names]) => names.split('|').map((name) => [name, use])))(
    '%s is %s',
    (name, use) => expect(headingTold(name).use).toBe(use),
  );

  it.each(['Page', 'Seite', 'User setting', 'Kundenwert', 'Version', 'constructor', '__proto__', 'toString'])(
    '%s says nothing that is used',
    (name) => expect(headingTold(name).use).toBeNull(),
  );

  it('tell the unit and hexadecimal numbers of their column, and no unit where there is none', () => {
    expect(headingTold('Default [Hz]')).toMatchObject({ use: 'default', unit: 'Hz', hex: false });
    expect(headingTold('Max (hex)')).toMatchObject({ use: 'maximum', unit: '', hex: true });
    expect(headingTold('Ramp up in s').unit).toBe('s');
    expect(headingTold('R/W').unit).toBe('');
    expect(unitBehind('Speed (see page 4)')).toEqual({ rest: 'Speed (see page 4)', unit: '' });
  });

  it('are what the others leave for them', () => {
    const guessed = (...columns: string[]) => Object.fromEntries(guessColumns({ columns }));
    expect(guessed('Nr', 'Parameter', 'Bereich')).toEqual({
      Nr: 'code',
      Parameter: 'name',
      Bereich: 'range',
    });
    expect(guessed('Parameter', 'Name')).toEqual({ Parameter: 'code', Name: 'name' });
    expect(guessed('Parameter', 'Code')).toEqual({ Parameter: 'name', Code: 'code' });
    expect(guessed('Code', 'Description')).toEqual({ Code: 'code', Description: 'name' });
    expect(guessed('Code', 'Name', 'Default', 'Default (2)')).toEqual({
      Code: 'code',
      Name: 'name',
      Default: 'default',
    });
  });
});
