// What the checks of a set say, and why it matters. The numbers come with their units.

export interface Speed {
  speed: string;
  asked: string;
  limit: string;
}

export interface Rated {
  current: string;
  left: string;
  rated: string;
  ambient: string;
  carrier: string;
}

const under = ({ ambient, carrier }: Rated): string => {
  const at = [ambient, carrier].filter((each) => each !== '');
  return at.length === 0 ? '' : ` at ${at.join(' and ')}`;
};

const SPEEDS = {
  'value-above-range': ({ what, code, value, limit }: Record<'what' | 'code' | 'value' | 'limit', string>) =>
    `${what} (${code}) is ${value}, and this unit takes ${limit} at most.`,
  'value-below-range': ({ what, code, value, limit }: Record<'what' | 'code' | 'value' | 'limit', string>) =>
    `${what} (${code}) is ${value}, and this unit takes ${limit} at least.`,
  'limits-crossed': ({ lower, low, upper, high }: Record<'lower' | 'low' | 'upper' | 'high', string>) =>
    `The ${lower} of ${low} is above the ${upper} of ${high}.`,
  'speed-above': ({ speed, asked, limit }: Speed) =>
    `The ${speed} asks for ${asked}, and the maximum frequency cuts it to ${limit}.`,
  'speed-below': ({ speed, asked, limit }: Speed) =>
    `The ${speed} asks for ${asked}, and the minimum frequency lifts it to ${limit}.`,
  'skip-over-speed': ({
    speed,
    asked,
    from,
    to,
    runs,
  }: Record<'speed' | 'asked' | 'from' | 'to' | 'runs', string>) =>
    `The ${speed} asks for ${asked}, which lies in the skip band from ${from} to ${to}: it runs ${runs}.`,
  'ramp-too-short': ({
    time,
    speed,
    inertia,
    torque,
    needed,
  }: Record<'time' | 'speed' | 'inertia' | 'torque' | 'needed', string>) =>
    `The ramp wants ${speed} in ${time}. An inertia of ${inertia} with ${torque}, all that the current limit lets the motor give, and no load at all takes ${needed}.`,
  'braking-too-short': ({
    time,
    energy,
    losses,
    needed,
  }: Record<'time' | 'energy' | 'losses' | 'needed', string>) =>
    `The ramp down takes ${energy} out of the machine in ${time}, and the motor turns ${losses} into heat: without a braking resistor it needs about ${needed}.`,
};

const MOTOR = {
  'current-over-plate': ({ current, plate, percent }: Record<'current' | 'plate' | 'percent', string>) =>
    `The rated current of the motor is set to ${current}; its plate says ${plate}: ${percent}.`,
  'current-over-unit': (facts: Rated) =>
    `The motor takes ${facts.current}, and the unit gives ${facts.left}${under(facts)}: it is rated for ${facts.rated}.`,
  'carrier-comes-down': (facts: Rated) =>
    `The motor takes ${facts.current}, and the unit gives ${facts.left}${under(facts)}: it will lower its carrier frequency by itself to carry that.`,
  'overload-over-plate': ({ level, plate, percent }: Record<'level' | 'plate' | 'percent', string>) =>
    `The overload level is ${level}, and the motor bears ${plate} for ever: ${percent}.`,
  'limit-over-unit': ({ limit, bears, duty }: Record<'limit' | 'bears' | 'duty', string>) =>
    `The current limit is ${limit}, and the unit bears ${bears} for a minute${duty}.`,
  'overload-off': () => 'The overload protection is off, and no sensor in the windings takes its place.',
  'plate-frequency': ({ base, plate }: Record<'base' | 'plate', string>) =>
    `The base frequency is ${base}; the plate of the motor says ${plate}.`,
  'plate-voltage': ({ volts, plate }: Record<'volts' | 'plate', string>) =>
    `The rated voltage of the motor is set to ${volts}; its plate says ${plate}.`,
  'measured-for-plate': ({ volts, plate }: Record<'volts' | 'plate', string>) =>
    `The rated voltage of the motor is set to ${volts}, which is what was measured at the supply; its plate says ${plate}.`,
  'v-per-hertz': ({ own, plate, percent, effect }: Record<'own' | 'plate' | 'percent' | 'effect', string>) =>
    `Voltage over frequency is ${own}, and the plate makes it ${plate}: ${percent}, ${effect}.`,
  'supply-below': ({
    volts,
    supply,
    measured,
    hertz,
  }: Record<'volts' | 'supply' | 'measured' | 'hertz', string>) =>
    `The motor wants ${volts}, and its supply has ${supply} (${measured})${hertz === '' ? '' : `: above ${hertz} it loses torque`}.`,
  'maximum-over-motor': ({ maximum, rpm, plate }: Record<'maximum' | 'rpm' | 'plate', string>) =>
    `The maximum frequency of ${maximum} is ${rpm}; the plate of the motor allows ${plate}.`,
  'speed-no-poles': ({ speed, base }: Record<'speed' | 'base', string>) =>
    `No number of poles gives a rated speed of ${speed} at ${base}.`,
  'speed-poles': ({
    speed,
    poles,
    base,
    synchronous,
  }: Record<'speed' | 'poles' | 'base' | 'synchronous', string>) =>
    `A motor with ${poles} poles at ${base} turns a little below ${synchronous}; its rated speed is set to ${speed}.`,
  'power-over': ({ power, apparent, factor }: Record<'power' | 'apparent' | 'factor', string>) =>
    `The motor is said to give ${power} and to take ${apparent} at a cos φ of ${factor}: it would give more than it takes.`,
  'power-under': ({
    power,
    apparent,
    factor,
    efficiency,
  }: Record<'power' | 'apparent' | 'factor' | 'efficiency', string>) =>
    `The motor is said to give ${power} and to take ${apparent} at a cos φ of ${factor}: an efficiency of ${efficiency}.`,
  'hp-for-kw': ({ power, plate, ratio }: Record<'power' | 'plate' | 'ratio', string>) =>
    `The rated power is set to ${power}, and the plate says ${plate}: ${ratio} times, which is the step between kilowatts and horsepower.`,
  'star-for-delta': ({
    current,
    volts,
    plate,
    connection,
  }: Record<'current' | 'volts' | 'plate' | 'connection', string>) =>
    `The rated current is set to ${current}; at ${volts} (${connection}) the plate says ${plate}: they lie apart by √3, as star and delta do.`,
  'off-by': ({
    what,
    value,
    factor,
    other,
    who,
  }: Record<'what' | 'value' | 'factor' | 'other' | 'who', string>) =>
    `The ${what} of ${value} is ${factor} what ${who} ${who.startsWith('the') ? 'says' : 'say'}: ${other}.`,
  'identified-unused': ({ values, codes }: Record<'values' | 'codes', string>) =>
    `Values that were measured on the motor are kept (${codes}: ${values}), and the drive works with those of the plate.`,
  'identified-far': ({ own, plate, percent }: Record<'own' | 'plate' | 'percent', string>) =>
    `The winding was measured at ${own}; the library has ${plate} for this motor: ${percent}.`,
};

const INPUTS = {
  'input-dead': ({
    input,
    terminal,
    does,
    what,
    from,
  }: Record<'input' | 'terminal' | 'does' | 'what' | 'from', string>) =>
    `Input ${input} at ${terminal} is for ${does}, and nobody asks it: ${what} ${what === 'commands' ? 'come' : 'comes'} from ${from}.`,
  'function-twice': ({ does, inputs }: Record<'does' | 'inputs', string>) =>
    `The function ${does} stands on ${inputs}, and the model does not say what two of them do together.`,
  'direction-unread': ({ terminal, does, by }: Record<'terminal' | 'does' | 'by', string>) =>
    `The contact at ${terminal} is for ${does}, which the wiring of run contacts "${by}" does not read.`,
  'direction-forbidden': ({ terminal, does, by }: Record<'terminal' | 'does' | 'by', string>) =>
    `The contact at ${terminal} is for ${does}, and only ${by} is allowed.`,
  'contact-sense': ({
    device,
    contact,
    rests,
    terminal,
    does,
    sense,
  }: Record<'device' | 'contact' | 'rests' | 'terminal' | 'does' | 'sense', string>) =>
    `${device}:${contact} at ${terminal} is ${rests} at rest, and the input is on when ${sense}: ${does} acts while nobody touches anything.`,
  'stop-missing': () =>
    'Run contacts are buttons with a stop, and no input is for the stop: no start is ever kept.',
  'stop-unfed': ({ terminal }: { terminal: string }) =>
    `The stop of three-wire control at ${terminal} is fed by no wire: no start is ever kept.`,
  'stop-closes': ({ device, contact, terminal }: Record<'device' | 'contact' | 'terminal', string>) =>
    `The stop at ${terminal} has to be on while the motor may run, and ${device}:${contact} closes when it is pressed.`,
  'external-open': ({ terminal, does }: Record<'terminal' | 'does', string>) =>
    `${terminal} acts while it is open, and nothing hangs on it: ${does} from the moment that the supply comes.`,
  'program-owns': ({ terminal, does }: Record<'terminal' | 'does', string>) =>
    `${terminal} belongs to the user program of the drive; its function ${does} was chosen and does nothing.`,
  'program-stands': ({ terminal }: { terminal: string }) =>
    `A device hangs on ${terminal}, which belongs to the user program of the drive, and the program stands.`,
  'count-filter': ({
    terminal,
    filter,
    hertz,
    pulse,
  }: Record<'terminal' | 'filter' | 'hertz' | 'pulse', string>) =>
    `${terminal} counts up to ${hertz}, where a pulse is ${pulse} long, and its filter takes ${filter}.`,
};

const SIGNALS = {
  'signal-board': ({
    terminal,
    signal,
    board,
    place,
  }: Record<'terminal' | 'signal' | 'board' | 'place', string>) =>
    `The signal at ${terminal} is set to "${signal}", and the board switch ${board} stands at "${place}".`,
  'signal-other-kind': ({
    device,
    sent,
    terminal,
    read,
  }: Record<'device' | 'sent' | 'terminal' | 'read', string>) =>
    `${device} sends ${sent}, and ${terminal} is set to read ${read}.`,
  'signal-other-zero': ({
    device,
    sent,
    terminal,
    read,
  }: Record<'device' | 'sent' | 'terminal' | 'read', string>) =>
    `${device} sends ${sent}, and ${terminal} is set to read ${read}: its zero is read as another value.`,
  'live-zero-unwatched': ({ terminal }: { terminal: string }) =>
    `The signal at ${terminal} has a live zero, and its loss is ignored: a broken wire is read as its start.`,
  'loss-unseen': ({
    device,
    fails,
    threshold,
    terminal,
  }: Record<'device' | 'fails' | 'threshold' | 'terminal', string>) =>
    `${device} gives ${fails} when it has failed, and ${terminal} takes a signal for lost below ${threshold} only.`,
  'curve-flat': ({
    terminal,
    curve,
    minimum,
    maximum,
  }: Record<'terminal' | 'curve' | 'minimum' | 'maximum', string>) =>
    `The signal at ${terminal} asks for ${curve}; between ${minimum} and ${maximum} it moves nothing.`,
  'loop-no-feedback': ({ terminal }: { terminal: string }) =>
    `The control loop is on, and nothing that sends its actual value hangs on ${terminal}.`,
  'loop-sense': ({ device, range }: Record<'device' | 'range', string>) =>
    `${device} measures ${range}, where more speed lowers the value, and the control loop takes it to raise.`,
  'loop-sense-changed': ({ now, before }: Record<'now' | 'before', string>) =>
    `The sense of the control loop is "${now}"; the baseline has "${before}".`,
  'loop-scale': ({ shown, device, range }: Record<'shown' | 'device' | 'range', string>) =>
    `The loop is shown from ${shown}, and ${device} measures ${range}.`,
  'loop-setpoint': ({
    what,
    value,
    percent,
    device,
    range,
  }: Record<'what' | 'value' | 'percent' | 'device' | 'range', string>) =>
    `The ${what} of ${percent} is ${value}, outside of what ${device} measures: ${range}.`,
  'loop-unreached': ({ what, percent, low, high }: Record<'what' | 'percent' | 'low' | 'high', string>) =>
    `The ${what} of ${percent} is never reached: by the scaling of its signal the actual value goes from ${low} to ${high}.`,
  'loop-limits': ({ low, high }: Record<'low' | 'high', string>) =>
    `The output of the control loop is held between ${low} and ${high}: there is nothing to control with.`,
  'meter-signal': ({
    device,
    reads,
    terminal,
    gives,
  }: Record<'device' | 'reads' | 'terminal' | 'gives', string>) =>
    `${device} reads ${reads}, and ${terminal} gives ${gives}.`,
};

const SOURCES = {
  'network-unfed': ({ what }: { what: string }) => `The ${what} is the network, and the unit is on no line.`,
  'start-unfed': () =>
    'Commands come from the terminals, and nothing that could start it hangs on one of them.',
  'signal-unfed': ({ terminal, source }: Record<'terminal' | 'source', string>) =>
    `The speed comes from the ${source}, and nothing hangs on ${terminal}.`,
  'raise-unfed': () => 'The speed is raised and lowered, and nothing that raises it hangs on an input.',
  'restart-maintained': ({ count, device, terminal }: Record<'count' | 'device' | 'terminal', string>) =>
    `${device} at ${terminal} stays closed, and after a fault the drive starts again by itself, up to ${count} times.`,
  'start-at-power-up': ({ device, terminal }: Record<'device' | 'terminal', string>) =>
    `${device} at ${terminal} stays closed, and the machine starts by itself when the supply comes back.`,
  'hand-at-power-up': ({ source }: { source: string }) =>
    `Commands come from the ${source}, and after a power cycle the drive stands in hand until somebody chooses automatic.`,
  'sto-open': ({ terminals }: { terminals: string }) =>
    `Safe torque off at ${terminals} is closed by no link and no relay: the drive never starts.`,
  'network-loss-ignored': ({ what }: { what: string }) =>
    `${what} over the network, and the drive runs on when it is lost.`,
  'network-unwatched': ({ what }: { what: string }) =>
    `${what} over the network, and nobody watches whether it is still there.`,
  'fire-restart': ({ terminal, count }: Record<'terminal' | 'count', string>) =>
    `Fire operation is on ${terminal}, and the drive tries again by itself up to ${count} times after a fault.`,
};

const STOPS = {
  'brake-current': ({ amps, of, terminal, most }: Record<'amps' | 'of' | 'terminal' | 'most', string>) =>
    `The brake coil takes ${amps} by ${of}, and ${terminal} gives ${most} at most.`,
  'brake-times': ({ what, own, plate }: Record<'what' | 'own' | 'plate', string>) =>
    `The ${what} is ${own}, and the plate says ${plate}.`,
  'brake-coast': () => 'A stop lets the motor coast, and the holding brake closes on a shaft that turns.',
  'hanging-coast': ({ weight, stops }: Record<'weight' | 'stops', string>) =>
    `A hanging load is made up for with ${weight}, no holding brake is set, and it falls at: ${stops}.`,
  'resistor-small': ({ ohms, least }: Record<'ohms' | 'least', string>) =>
    `The braking resistor is set to ${ohms}, and the chopper of this rating needs ${least} at least.`,
  'resistor-impossible': () => 'A braking resistor is set as fitted, and this rating has no chopper.',
  'resistor-unfitted': ({ terminals }: { terminals: string }) =>
    `A braking resistor is set as fitted, and nothing hangs on ${terminals}.`,
  'stop-changed': ({ what, now, before }: Record<'what' | 'now' | 'before', string>) =>
    `The ${what} is "${now}"; the signed baseline has "${before}".`,
};

const UNIT = {
  'lock-on': () => 'The lock code is on: nothing can be written, nor put back, before it is taken off.',
  'lock-default': () =>
    'The lock is on with the code as delivered: it keeps out only those who have no manual.',
  'write-locked': () => 'Writes over the network are locked: nothing can be put back from here.',
  'address-shared': ({ address, tags }: Record<'address' | 'tags', string>) =>
    `Address ${address} is also set at ${tags} on the same line: both answer at once.`,
  'address-other': ({ own, register }: Record<'own' | 'register', string>) =>
    `The unit is set to address ${own}, and the register knows it at ${register}.`,
  'region-mains': ({ region, supply }: Record<'region' | 'supply', string>) =>
    `The unit is set for a region of ${region}, and its supply has ${supply}.`,
  'mains-other': ({ mains, supply }: Record<'mains' | 'supply', string>) =>
    `The unit is set for mains of ${mains}, and its supply is ${supply}.`,
  'residual-filter': ({ trips }: { trips: string }) =>
    `The unit has its filter inside, and a residual-current device of ${trips} stands before it.`,
  'firmware-older': ({
    own,
    count,
    newest,
    tag,
  }: {
    own: string;
    count: number;
    newest: string;
    tag: string;
  }) => `Firmware ${own} is older than that of ${count} of its peers; ${tag} has ${newest}.`,
  'no-baseline': () => 'No baseline is signed: nobody has said what this unit should hold.',
  'baseline-unproved': () => 'The baseline was signed and never proved on the machine.',
  'memory-differs': ({ codes }: { codes: string }) =>
    `Changed in the working memory and never saved: ${codes}. A power cycle takes it back.`,
};

export const CHECK_TEXTS = { ...SPEEDS, ...MOTOR, ...INPUTS, ...SIGNALS, ...SOURCES, ...STOPS, ...UNIT };

/** By the check: its name, and why it matters. */
export const CHECK_WORDS: Readonly<Record<string, { readonly name: string; readonly why: string }>> = {
  'limits-crossed': {
    name: 'Limits against each other',
    why: 'Makers decide differently which of the two then counts, and the machine runs at a speed that nobody set.',
  },
  'outside-range': {
    name: 'Values outside the range of this unit',
    why: 'Such a value came from a file, another firmware or another duty: nobody can write it back as it is.',
  },
  'speed-outside': {
    name: 'Speeds outside the limits',
    why: 'Whoever sets the speed believes in it, and the machine runs another one.',
  },
  'skip-over-speed': {
    name: 'Skip bands over speeds',
    why: 'A band is passed through and never stayed in: the drive holds its edge.',
  },
  'ramp-too-short': {
    name: 'Ramp up against inertia',
    why: 't = J·2πΔn/(60·T): a shorter ramp runs into the current limit and is stretched, or trips.',
  },
  'braking-too-short': {
    name: 'Ramp down against the bus',
    why: 'The energy ½·J·ω² has to go somewhere; what the motor does not turn into heat raises the bus voltage until the drive trips.',
  },
  'current-over-plate': {
    name: 'Current against the plate',
    why: 'Everything that protects the motor counts to this current.',
  },
  'current-over-unit': {
    name: 'Current against the unit',
    why: 'A unit gives less in a hot cabinet and at a high carrier frequency; beyond that it trips or lowers its speed.',
  },
  'limit-over-unit': {
    name: 'Current limit against the unit',
    why: 'Beyond what it bears the unit protects itself: it trips in the middle of a start.',
  },
  'overload-over-plate': {
    name: 'Overload level against the plate',
    why: 'A protection that lets more than 1.2 times through does not protect (IEC 60947-4-1).',
  },
  'overload-off': {
    name: 'Overload protection off',
    why: 'A motor that is blocked or overloaded burns, and the drive does not see it.',
  },
  'plate-frequency': {
    name: 'Base frequency against the plate',
    why: 'The base frequency decides the flux of the motor, and on most models what ramps and speeds count to.',
  },
  'plate-voltage': {
    name: 'Voltage against the plate',
    why: 'The rated voltage of the motor decides its flux. What the supply has is another number.',
  },
  'v-per-hertz': {
    name: 'Volts for each hertz',
    why: 'Voltage over frequency is the flux: too much saturates the iron, too little takes torque.',
  },
  'supply-below': { name: 'Supply against the motor', why: 'A drive cannot give more voltage than it gets.' },
  'maximum-over-motor': {
    name: 'Maximum frequency against the motor',
    why: 'Beyond its maximum speed bearings and rotor of a motor are not made to hold.',
  },
  'speed-poles': {
    name: 'Speed against poles',
    why: 'Slip compensation, displays in rpm and the protection count with them.',
  },
  'power-contradicts': {
    name: 'Power against current',
    why: 'One of the numbers is not of this motor: η = P/(√3·U·I·cos φ).',
  },
  'hp-for-kw': {
    name: 'Horsepower for kilowatts',
    why: 'One horsepower is 0.7457 kW; the model counts in the other one.',
  },
  'star-for-delta': {
    name: 'Star for delta',
    why: 'A plate has a current for each connection; the motor is connected in one of them.',
  },
  'off-by': { name: 'Off by ten or a hundred', why: 'Tenths typed for units, or seconds for hertz.' },
  'identified-unused': {
    name: 'Identified and not selected',
    why: 'The identification alone changes nothing: a setting has to select what it measured.',
  },
  'identified-far': {
    name: 'Identified values far from the library',
    why: 'Another motor, a loose terminal or a long cable was measured; the current control is tuned to it.',
  },
  'input-dead': {
    name: 'Functions that nobody asks',
    why: 'Somebody presses this button in an emergency of his own and nothing happens; after a replacement it may act at once.',
  },
  'function-twice': {
    name: 'One function twice',
    why: 'Which of the two counts, or whether both have to, differs between makers.',
  },
  'run-contradicts': {
    name: 'Directions that cannot act',
    why: 'The contact is there and is ignored; with another setting, or on the successor, it acts.',
  },
  'contact-sense': {
    name: 'Contacts against their sense',
    why: 'Normally closed and normally open are swapped: it acts at rest and stops when it is worked.',
  },
  'stop-unfed': {
    name: 'Stop of three-wire control',
    why: 'With buttons the stop has to be on while the motor may run.',
  },
  'external-open': {
    name: 'Open inputs that act',
    why: 'A closed contact is missing: a wire is off, or the function was never meant.',
  },
  'program-owns': {
    name: 'Inputs of the user program',
    why: 'The drive and its program cannot both read one input.',
  },
  'count-filter': {
    name: 'Filter on a counting input',
    why: 'Pulses shorter than the filter are not seen, and the speed is too low or nothing.',
  },
  'signal-board': {
    name: 'Signal against the board',
    why: 'A current into a voltage input is read wrong, and can damage what sends it.',
  },
  'signal-sender': {
    name: 'Signal against the transmitter',
    why: 'The speed or the actual value is read wrong over the whole range.',
  },
  'live-zero-unwatched': {
    name: 'Live zero that nobody watches',
    why: 'A live zero is there to tell a broken wire from a small value.',
  },
  'loss-unseen': {
    name: 'Failure signals',
    why: 'Transmitters tell of their own failure below 3.6 mA or above 21 mA (NAMUR NE 43).',
  },
  'curve-flat': {
    name: 'Signals that move nothing',
    why: 'The whole range of the signal lies outside of the limits.',
  },
  'loop-no-feedback': {
    name: 'Loop without an actual value',
    why: 'The loop runs to the end of its output and stays there.',
  },
  'loop-sense': {
    name: 'Sense of the loop',
    why: 'A loop with its sense inverted drives away from its set-point.',
  },
  'loop-setpoint': {
    name: 'Set-point against the transmitter',
    why: 'A set-point that the actual value cannot reach keeps the loop at its end.',
  },
  'loop-limits': {
    name: 'Limits of the loop',
    why: 'The loop may ask for what it wants; the speed stays the same.',
  },
  'meter-signal': {
    name: 'Analog output against its meter',
    why: 'The meter shows a wrong number, or stands at its end.',
  },
  'source-unfed': {
    name: 'Sources that nobody feeds',
    why: 'Nothing can start it, or it stands at its minimum.',
  },
  'restart-maintained': {
    name: 'Automatic restart',
    why: 'A person who has gone to clear the fault stands at the machine when it starts.',
  },
  'start-at-power-up': {
    name: 'Start at power-up',
    why: 'After a dip of the supply, or when somebody switches it on again, the machine starts without a command of its own.',
  },
  'hand-at-power-up': {
    name: 'Hand after power-up',
    why: 'After a power cut at night the machine stands until somebody finds the key.',
  },
  'sto-open': {
    name: 'Safe torque off',
    why: 'Both channels have to be closed before the drive gives torque.',
  },
  'network-loss-ignored': {
    name: 'Loss of the network',
    why: 'A controller that has gone cannot stop the machine any more.',
  },
  'fire-restart': {
    name: 'Fire operation with restarts',
    why: 'In a fire nobody is there to see what it tries again; what it is to do then has to be agreed.',
  },
  'brake-current': {
    name: 'Brake against its output',
    why: 'The contact welds or the output switches itself off: the brake stays open or closed.',
  },
  'brake-times': {
    name: 'Times of the brake',
    why: 'Too short an opening time pulls against the lining; too short a closing time lets the load sink.',
  },
  'brake-coast': {
    name: 'Brake on a coasting stop',
    why: 'A holding brake is not made to stop: its lining wears off.',
  },
  'hanging-coast': { name: 'Hanging load', why: 'Without torque and without a brake a hanging load falls.' },
  'resistor-unfitted': {
    name: 'Braking resistor',
    why: 'The drive lets its bus voltage rise to the level of a resistor that takes nothing.',
  },
  'stop-changed': {
    name: 'Way of stopping',
    why: 'The category of a stop (IEC 60204-1) is part of the assessment of the machine.',
  },
  'lock-on': { name: 'Parameter lock', why: 'Whoever has to put a value back at night needs the code.' },
  'write-locked': {
    name: 'Write lock',
    why: 'Putting back and replacing over the line are refused by the unit.',
  },
  'address-shared': { name: 'Address', why: 'What is read may come from the other unit.' },
  'region-mains': {
    name: 'Region against the supply',
    why: 'The next reset brings the defaults of the other region.',
  },
  'residual-filter': {
    name: 'Residual current',
    why: 'The filter leads current to earth by itself: the device trips without a fault.',
  },
  'firmware-older': {
    name: 'Firmware',
    why: 'Peers that behave alike have the same firmware, or somebody knows why not.',
  },
  'no-baseline': {
    name: 'No baseline',
    why: 'Without a baseline no drift is seen and nothing can be put back.',
  },
  'baseline-unproved': {
    name: 'Baseline not proved',
    why: 'A signature says what should be; a proof run says that it works.',
  },
  'memory-differs': {
    name: 'Working and permanent memory',
    why: 'A unit whose two memories differ is another one after the next power cut.',
  },
};
