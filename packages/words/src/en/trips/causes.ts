/** What a cause is called, what it means at the machine, and what to do about it. */
export const causeWords: Readonly<Record<string, { name: string; means: string; cure: string }>> = {
  'stop too short': {
    name: 'The stop is too short',
    means: 'The machine gives its energy back faster than the drive can use it up, and the bus rises to its trip level.',
    cure: 'Set a longer deceleration time, let the ramp wait for the bus, or fit a brake resistor.',
  },
  'chopper never acts': {
    name: 'The brake chopper never acts',
    means: 'It is told to act at or above the level at which the drive trips.',
    cure: 'Set the chopper’s level below the trip level.',
  },
  'resistor open': {
    name: 'The brake resistor is open',
    means: 'The chopper switches, and nothing takes the energy: a burnt resistor or a wire that is off.',
    cure: 'Isolate, measure the resistor and its wires, replace what is open.',
  },
  'resistor too weak': {
    name: 'The brake resistor takes too little',
    means: 'It slows the rise of the bus and does not hold it: too many ohms for a stop as short as this.',
    cure: 'Set a longer deceleration time, or fit a resistor of fewer ohms that the drive still allows.',
  },
  'load drives the motor': {
    name: 'The load drives the motor',
    means: 'Something pulls the machine along, and it gives power back while it runs.',
    cure: 'Take the load off and find what pulls. A load that always does needs a brake resistor.',
  },
  'none of these': {
    name: 'None of these',
    means: 'Nothing the list knows fits well enough.',
    cure: 'Go by what is seen at the machine, and say what it was when you close the case.',
  },
  'turned by what it moves': {
    name: 'What it moves turns it',
    means: 'A draught turns the fan, or water that runs back turns the pump, faster than the drive asks for.',
    cure: 'Look at damper, check valve and other machines on the same duct or pipe. Stop what turns it before it is started.',
  },
  'starts into a turning machine': {
    name: 'It starts while the machine still turns',
    means: 'The drive begins at standstill and brakes a shaft that turns: a surge of current, and energy back into the bus.',
    cure: 'Let it look for the turning motor before it starts, or let it stand first.',
  },
  'bus capacitors worn': {
    name: 'The drive’s capacitors are worn',
    means: 'The supply is right and the bus still gives way under load: after years its capacitors hold less.',
    cure: 'Have the drive checked or replaced; measure the ripple of the bus under load.',
  },
  'starts too often': {
    name: 'It starts too often',
    means: 'One start is no trouble; one after another heats the motor faster than it cools.',
    cure: 'Leave more time between starts, start more slowly, or find what makes it start so often.',
  },
  'line high': {
    name: 'The supply is too high',
    means: 'The bus stands high before anything is given back, so little is left up to the trip level.',
    cure: 'Measure the three line voltages; have the supply or the transformer’s tap put right.',
  },
  'surge on the line': {
    name: 'A surge on the supply',
    means: 'The bus jumped within milliseconds, with more power than this machine can give back.',
    cure: 'Find what was switched: capacitors, a large load, lightning. A line choke takes the edge off.',
  },
  'loop hunts': {
    name: 'The loop hunts',
    means: 'The speed swings up and down, and every swing down gives energy back.',
    cure: 'Tune the controller on the Process stage.',
  },
  'supply dip': {
    name: 'A dip in the supply',
    means: 'The supply fell for a moment and came back.',
    cure: 'Find what was started at that moment. Automatic restarts bring the machine back by itself where that is safe.',
  },
  'supply gone': {
    name: 'The power was off',
    means: 'The supply was gone for seconds; the bus ran empty while the motor turned.',
    cure: 'Find out who or what switched it off. Decide whether the machine may start by itself after it.',
  },
  'line low': {
    name: 'The supply is too low',
    means: 'The bus was low before and stayed low after.',
    cure: 'Measure the three line voltages under load; look at cable, fuses and transformer.',
  },
  'supply phase missing': {
    name: 'A supply phase is missing',
    means: 'The drive runs on two phases: a blown fuse, a loose terminal, a contact that does not close.',
    cure: 'Measure all three line voltages at the drive, then at the fuses. Replace all three fuses, not one.',
  },
  'supply out of balance': {
    name: 'The supply is out of balance',
    means: 'All phases are there, and one is much lower than the others.',
    cure: 'Measure the three line voltages under load and find what loads one phase.',
  },
  'short in the cable': {
    name: 'A short in the motor cable or motor',
    means: 'The current rose faster than the drive’s own reading: no rotor slows down as fast as that.',
    cure: 'Do not reset before it is measured. Isolate, take the motor leads off the drive, measure lead to lead and to earth.',
  },
  'run-up too fast': {
    name: 'The run-up is too fast',
    means: 'Speeding up the mass takes more torque than the drive may give.',
    cure: 'Set a longer acceleration time.',
  },
  'boost too high': {
    name: 'The start boost is too high',
    means: 'At low speed the motor gets more volts than it needs and draws them as current.',
    cure: 'Set less boost.',
  },
  'motor data wrong': {
    name: 'The drive has another motor’s figures',
    means: 'Rated volts or frequency in the drive are not those of the plate: the motor runs over or under its flux.',
    cure: 'Take the plate’s figures into the drive, then tune again.',
  },
  'connected otherwise': {
    name: 'The motor is connected otherwise',
    means: 'Star for delta or the other way round: the motor gets the wrong volts.',
    cure: 'Isolate, open the terminal box, compare the links with the plate.',
  },
  'wet insulation': {
    name: 'Current leaks to earth',
    means: 'Wet or worn insulation in the motor or its cable.',
    cure: 'Isolate, take the motor leads off the drive, measure insulation of cable and motor one by one.',
  },
  'cable leaks by its length': {
    name: 'A long cable leaks',
    means: 'Insulation is sound: a long or screened cable passes current to earth at every switching of the inverter.',
    cure: 'Switch at a lower frequency, shorten the cable, or fit an output choke.',
  },
  'motor lead open': {
    name: 'A motor lead is open',
    means: 'One phase carries nothing: a loose terminal, a broken lead, a switch that is not closed.',
    cure: 'Isolate, check every terminal from the drive to the motor.',
  },
  'contactor at the motor': {
    name: 'A switch between drive and motor opened',
    means: 'A contactor or an isolator was switched while the drive ran.',
    cure: 'Interlock it with the drive’s enable, so that the drive stops first.',
  },
  jam: {
    name: 'Something holds the shaft',
    means: 'The rotor is held, or all but held, and the current rises as it slows down.',
    cure: 'Isolate, turn the machine by hand, take out what holds it.',
  },
  'turns hard': {
    name: 'The machine turns hard',
    means: 'It takes more torque than it should: a bearing, a seal, a belt that is too tight.',
    cure: 'Isolate, turn it by hand, find the bearing or seal that drags.',
  },
  overloaded: {
    name: 'The machine is overloaded',
    means: 'There is more on it or in it than it was made for.',
    cure: 'Take load off; find out why so much was fed.',
  },
  'pumps too much': {
    name: 'It pumps more than it was made for',
    means: 'Far out on its curve: a burst pipe or everything open at once.',
    cure: 'Look for the open pipe; throttle or hold the pressure.',
  },
  'overload set low': {
    name: 'The overload current is set too low',
    means: 'The motor carries no more than its plate allows, and the drive thinks otherwise.',
    cure: 'Set the overload current to the plate’s full-load current.',
  },
  'slow and self-cooled': {
    name: 'Too slow for its own fan',
    means: 'A motor that cools itself was loaded at a speed at which its fan moves little air.',
    cure: 'Run it faster, load it less, or fit a separate fan and tell the drive.',
  },
  'drive too small': { name: 'The drive is too small', means: 'Its rated current is below the motor’s.', cure: 'Fit the next size.' },
  'limit too low': {
    name: 'The current limit is too low',
    means: 'The drive holds the motor back before it has the torque to move its load.',
    cure: 'Raise the current limit.',
  },
  'boost too low': {
    name: 'The start boost is too low',
    means: 'At the first hertz the motor gets too few volts to break loose.',
    cure: 'Set more boost, or tune and run in vector control.',
  },
  'brake stays shut': {
    name: 'The holding brake stays shut',
    means: 'The motor pushes against its own brake.',
    cure: 'Check that a relay of the drive opens it, then the brake’s supply.',
  },
  'drive cannot cool': {
    name: 'The drive cannot cool',
    means: 'It is hotter than its current explains: its fan stands, its fins are full of dust, or the panel is too warm.',
    cure: 'Look at the fan, clean the fins and the panel’s filter.',
  },
  'drive overloaded for long': {
    name: 'The drive carried too much for too long',
    means: 'Its temperature is what its current explains.',
    cure: 'Take load off, switch at a lower frequency, or fit the next size.',
  },
  'motor cannot cool': { name: 'The motor cannot cool', means: 'Its fan or its fins are blocked.', cure: 'Clean the fan cowl and the fins.' },
  'thermistor wire': {
    name: 'The thermistor wire',
    means: 'The motor is not hot: the wire of its thermistors is broken or loose.',
    cure: 'Measure the thermistors at the motor and at the drive.',
  },
  'stops too often': {
    name: 'It stops too often for its resistor',
    means: 'One stop is no trouble; many within a minute are.',
    cure: 'Set a longer deceleration time, or fit a resistor for more power.',
  },
  'resistor data wrong': {
    name: 'The resistor’s power is set too low',
    means: 'By what is set, one single stop would already burn it.',
    cure: 'Set the watts that are stamped on the resistor.',
  },
  'overspeed level low': {
    name: 'The overspeed level is too low',
    means: 'It is set at the top speed, or so near to it that an ordinary run reaches it.',
    cure: 'Set it further above the maximum frequency, as far as motor and machine may turn.',
  },
  'coupling apart': { name: 'The coupling is apart', means: 'The motor turns and the machine does not.', cure: 'Isolate, look at coupling or belt.' },
  'draws air': {
    name: 'The pump draws air',
    means: 'There is no water at its suction.',
    cure: 'Look at the level, the foot valve and the strainer; vent the pump before it runs.',
  },
  'valve shut': { name: 'A valve is shut', means: 'The pump turns against it and moves nothing.', cure: 'Open it, and find out who shut it.' },
  'flow switch fails': {
    name: 'The flow switch fails',
    means: 'The pump moves water and its switch says otherwise.',
    cure: 'Look at the switch, its paddle and its wire.',
  },
  'guard too early': {
    name: 'The guard acts too early',
    means: 'Its delay is shorter than the machine takes to get going.',
    cure: 'Give it more time.',
  },
  'guard too near': {
    name: 'The guard is set too near',
    means: 'Its level lies inside what the machine does every day.',
    cure: 'Move it further out, or measure the load first.',
  },
  rags: {
    name: 'Something is wound round the wheel',
    means: 'It takes more torque than it should.',
    cure: 'Clean it: backward and forward first, then by hand with the machine isolated.',
  },
  'cannot be cleaned': {
    name: 'Cleaning does not help',
    means: 'What makes it turn hard is nothing that comes off.',
    cure: 'Isolate, open the pump, look at wheel, bearings and seal.',
  },
  burst: { name: 'A pipe has burst', means: 'The pump gives all it has and the pressure stays low.', cure: 'Shut it off and look along the pipe.' },
  'it freezes': {
    name: 'It freezes',
    means: 'The thermostat at the coil has opened because it is cold.',
    cure: 'Heat first; then see why the coil got so cold.',
  },
  'thermostat wire': { name: 'The thermostat’s wire', means: 'It is not cold: contact or wire is open.', cure: 'Check the wire and the thermostat.' },
  'signal wire broken': {
    name: 'The signal wire is broken',
    means: 'No current at all comes in.',
    cure: 'Check the wire from the sensor, its terminals and its supply.',
  },
  'signal of another kind': {
    name: 'The sensor gives another signal',
    means: 'It is no 4 to 20 mA signal, and the drive waits for one.',
    cure: 'Set the input to what the sensor gives.',
  },
  'sensor failed': {
    name: 'The sensor has failed',
    means: 'It gives less than its live zero.',
    cure: 'Measure its current with nothing on it; replace it.',
  },
  'link cable': {
    name: 'The link’s cable',
    means: 'The link fell silent: a plug, a wire, a switch on the way.',
    cure: 'Press in every plug on the way, look at the cable.',
  },
  'master stopped': {
    name: 'The controller stopped talking',
    means: 'The cable is sound; whoever gives commands fell silent.',
    cure: 'Look at the controller: stopped, restarted, or too busy.',
  },
  'time-out too short': {
    name: 'The link’s time-out is too short',
    means: 'Commands come less often than the drive wants them.',
    cure: 'Set a longer time-out, or have commands sent more often.',
  },
  'chain opened': {
    name: 'The external chain opened',
    means: 'A thermal relay, a door or a limit switch in the chain.',
    cure: 'Go along the chain until the open contact is found.',
  },
  'contact sense wrong': {
    name: 'The contact is set the wrong way',
    means: 'The chain is closed and the drive takes that as a trip.',
    cure: 'Set that an open contact trips.',
  },
  'one channel open': {
    name: 'One safety channel is open',
    means: 'Channel 1 and 2 of safe torque off do not say the same.',
    cure: 'Check both channels to the last contact; then power off and on. Never bridge one.',
  },
  'channels apart in time': {
    name: 'The channels do not switch together',
    means: 'Both switch, one too late after the other.',
    cure: 'Replace the contact that lags.',
  },
  'chopper against trip': {
    name: 'Chopper and trip level contradict',
    means: 'The chopper’s level lies at or above the trip level.',
    cure: 'Set the chopper’s level below the trip level.',
  },
  'speeds contradict': {
    name: 'Minimum and maximum speed contradict',
    means: 'The minimum lies above the maximum.',
    cure: 'Set a minimum below the maximum.',
  },
};
