import { readNotebook } from './notebook';

/**
 * Lines as reviewers write them, in ten ways of writing, of a run of half an
 * hour, and what a person takes each for; null where the line has to be
 * pointed at. They are made up, after common practice.
 */
const WAYS: Record<string, [line: string, taken: string | null][]> = {
  'time first, short': [
    ['0:00 100%', '0:00: battery 100 %'],
    ['0:30 back 24.5', '0:30: 24.5 °C at back, infrared'],
    ['5:00 60 fps', '5:00: 60 fps, overlay'],
    ['5:00 back 33.1 front 31.8', '5:00: 33.1 °C at back, infrared; 31.8 °C at front, infrared'],
    ['8:00 back 36.5', '8:00: 36.5 °C at back, infrared'],
    ['10:00 58 fps, back 38.2', '10:00: 58 fps, overlay; 38.2 °C at back, infrared'],
    ['13:00 hinge 39.4', '13:00: 39.4 °C at hinge, infrared'],
    ['15:00 55-58 fps', '15:00: 55 to 58 fps, overlay'],
    ['15:00 81%', '15:00: battery 81 %'],
    ['18:00 back 41.7', '18:00: 41.7 °C at back, infrared'],
    ['20:00 54 fps', '20:00: 54 fps, overlay'],
    ['20:00 cpu 78.5 °C', '20:00: cpu inside 78.5 °C'],
    ['22:30 stutter', '22:30: marker: stutter'],
    ['25:00 30 fps', '25:00: 30 fps, overlay'],
    ['25:00 dims', '25:00: marker: dim'],
    ['28:00 20-30 fps', '28:00: 20 to 30 fps, overlay'],
    ['30:00 back 42.8, front 41', '30:00: 42.8 °C at back, infrared; 41.0 °C at front, infrared'],
    ['30:00 65%', '30:00: battery 65 %'],
    ['30:00 5.2 W', '30:00: 5.2 W'],
    ['30:00 end', '30:00: end, as planned'],
    ['1:05:00 61%', '1:05:00: battery 61 %'],
    ['12:00 cooler on', '12:00: cooler until 30:00'],
    ['20:00 cooler off', '0:00: cooler until 20:00'],
    ['2:00 charging', '2:00: charging until 30:00'],
    ['2:30 charger off', '0:00: charging until 2:30'],
    ['9:40 freeze', '9:40: marker: freeze'],
    ['9:40 froze for 3 s', '9:40: marker: freeze, “froze for 3 s”'],
    ['8:12 crashed', '8:12: end, crashed'],
    ['16:00 scene harbour', '16:00: scene “harbour”'],
    ['17:00 smooth', '17:00: stutter: none, by eye'],
    ['19:00 stutters often', '19:00: stutter: frequent, by eye'],
    ['24:00 barely playable', '24:00: plays: barely'],
  ],
  'value first, unit behind': [
    ['100% at 0:00', '0:00: battery 100 %'],
    ['60 fps at 5:00', '5:00: 60 fps, overlay'],
    ['51–55 fps at 5:00', '5:00: 51 to 55 fps, overlay'],
    ['36.5 °C back at 8:00', '8:00: 36.5 °C at back, infrared'],
    ['41.7C on the back at 18 min', '18:00: 41.7 °C at back, infrared'],
    ['106F front at 13 min', '13:00: 41.11 °C at front, infrared'],
    ['38.4 back by the camera 8:00', '8:00: 38.4 °C at back by the camera, infrared'],
    ['97 % at 8 min', '8:00: battery 97 %'],
    ['65 % at 30 min', '30:00: battery 65 %'],
    ['5.4 W at 10:00', '10:00: 5.4 W'],
    ['10.5 W chip at 10:00', '10:00: 10.5 W, chip'],
    ['58 fps after 10 min', '10:00: 58 fps, overlay'],
    ['45 fps after half an hour', '30:00: 45 fps, overlay'],
    ['30 fps by 25 min', '25:00: 30 fps, overlay'],
    ['about 40 fps at 10:00, by eye', '10:00: about 40 fps, by eye'],
    ['40 ± 8 fps by eye at 10:00', '10:00: about 40 (32 to 48) fps, by eye'],
    ['98 % speed at 4:00', '4:00: speed 98 %, in-game counter'],
    ['95-99 % speed in the castle', 'speed 95 to 99 %, in-game counter, in “the castle”'],
    ['60 fps in the menu', '60 fps, overlay, in “the menu”'],
    ['48 fps in the harbour at 12:00', '12:00: 48 fps, overlay, in “the harbour”'],
    ['107 F max', 'peak 41.67 °C at “hottest spot”, infrared'],
    ['41.7 max back', 'peak 41.7 °C at back, infrared'],
    ['42 °C peak at the back', 'peak 42.0 °C at back, infrared'],
    ['39 C on the screen at the end', '30:00: 39.0 °C at screen, infrared'],
    ['12 s to load', '0:00: marker: load, “12 s”'],
    ['3 stutters', 'marker: stutter, in all; marker: stutter, in all; marker: stutter, in all'],
    [
      '2 freezes in the town',
      'marker: freeze, “2 freezes in the town”, in all; marker: freeze, “2 freezes in the town”, in all',
    ],
    ['120 Hz panel at 0:00', '0:00: screen at 120 Hz'],
    ['1569 MB memory at 8:00', '8:00: memory 1569 MB'],
    ['24 % cpu at 8:00', '8:00: CPU load 24 %'],
    ['71 % gpu at 8:00', '8:00: GPU load 71 %'],
    ['59 median', 'summary screen: median 59, tool'],
    ['87 % near the median', 'summary screen: near median 87 %, tool'],
    ['44 1% low', 'summary screen: 1 % low 44, tool'],
  ],
  sentences: [
    ['Started at 100%', '0:00: battery 100 %'],
    ['After 5 minutes it shows 60 fps', '5:00: 60 fps, overlay'],
    ['After ten minutes the back was at 38 C', '10:00: 38.0 °C at back, infrared'],
    ['It crashed at 8 min', '8:00: end, crashed'],
    [
      'crashed after 12 minutes in the harbour',
      '12:00: end, crashed; marker: note, “crashed after 12 minutes in the harbour”',
    ],
    ['It froze twice', 'marker: freeze, in all; marker: freeze, in all'],
    ['froze 2 s at 12:40', '12:40: marker: freeze, “froze 2 s”'],
    ['the screen dimmed at 25:00', '25:00: marker: dim, “the screen dimmed”'],
    ['smooth the whole time', 'stutter: none, by eye'],
    ['very smooth', 'stutter: none, by eye'],
    ['smooth, around forty I think', 'stutter: none, by eye; about 40 fps, by eye'],
    ['stutters now and then', 'stutter: occasional, by eye'],
    ['it stutters often in the town', 'stutter: frequent, by eye, in “the town”'],
    ['stutters all the time', 'stutter: constant, by eye'],
    ['no stutters', 'stutter: none, by eye'],
    ['Barely warm', 'marker: warmth, “Barely warm”, in all'],
    ['warm, not hot', 'marker: warmth, “warm, not hot”, in all'],
    ['gets quite warm after 10 min', '10:00: marker: warmth, “gets quite warm”'],
    ['too hot to hold at 28:00', '28:00: marker: warmth, “too hot to hold”'],
    [
      'first ten minutes 60, then 40',
      '0:00: 60 fps, overlay; 10:00: 60 fps, overlay; 10:01: 40 fps, overlay; 30:00: 40 fps, overlay',
    ],
    [
      '60 for the first 10 min, then 40',
      '0:00: 60 fps, overlay; 10:00: 60 fps, overlay; 10:01: 40 fps, overlay; 30:00: 40 fps, overlay',
    ],
    ['starts at 60, after 20 min 45', '0:00: 60 fps, overlay; 20:00: 45 fps, overlay'],
    ['60 at first, 45 at the end', '0:00: 60 fps, overlay; 30:00: 45 fps, overlay'],
    ['at the start 60 fps, at the end 36', '0:00: 60 fps, overlay; 30:00: 36 fps, overlay'],
    [
      '60 until 12:00, then 45',
      '0:00: 60 fps, overlay; 12:00: 60 fps, overlay; 12:01: 45 fps, overlay; 30:00: 45 fps, overlay',
    ],
    ['drops from 60 to 40', '0:00: 60 fps, overlay; 30:00: 40 fps, overlay'],
    ['drops to 45 after 20 min', '20:00: 45 fps, overlay'],
    ['falls to 30 after half an hour', '30:00: 30 fps, overlay'],
    ['played 45 min', '45:00: end, as planned'],
    ['played about three to four hours', '3:30:00: end, as planned, between 3:00:00 and 4:00:00'],
    ['plays good', 'plays: good'],
    ['unplayable', 'plays: unplayable'],
    ['would not start', '0:00: end, would not start'],
    ['loads in 12 s', '0:00: marker: load, “12 s”'],
    ['mostly 60 fps with dips to 45', '60 fps, overlay; summary screen: lowest 45, tool'],
    ['Hovers around 50 fps', 'about 50 fps, by eye'],
    ['the battery was at 81 % after 15 minutes', '15:00: battery 81 %'],
  ],
  'shorthand and signs': [
    ['>30', 'at least 30 fps, overlay'],
    ['30+', 'at least 30 fps, overlay'],
    ['<60 fps', 'up to 60 fps, overlay'],
    ['≥40 fps', 'at least 40 fps, overlay'],
    ['~40', 'about 40 fps, by eye'],
    ['~40 fps', 'about 40 fps, by eye'],
    ['~30fps the whole time', 'about 30 fps, by eye'],
    ['55-60fps', '55 to 60 fps, overlay'],
    ['60fps@5:00', '5:00: 60 fps, overlay'],
    ['[8:00] back 36.5', '8:00: 36.5 °C at back, infrared'],
    ['8:00 - back 36.5', '8:00: 36.5 °C at back, infrared'],
    ['8:00 | back 36.5 | front 35', '8:00: 36.5 °C at back, infrared; 35.0 °C at front, infrared'],
    ["8' back 36.5", '8:00: 36.5 °C at back, infrared'],
    ['back: 41.7 C', 'peak 41.7 °C at back, infrared'],
    ['back = 41.7 C', 'peak 41.7 °C at back, infrared'],
    ['100%->65%', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['100 → 65 %', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['60 -> 40 fps', '0:00: 60 fps, overlay; 30:00: 40 fps, overlay'],
    ['100% to 65%', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['5min: 60fps', '5:00: 60 fps, overlay'],
    ['t=8:00 58 fps', '8:00: 58 fps, overlay'],
    ['min 8: 58 fps', '8:00: 58 fps, overlay'],
    ['minute 8 back 36.5', '8:00: 36.5 °C at back, infrared'],
    ['often', 'stutter: frequent, by eye'],
    ['smooth', 'stutter: none, by eye'],
    ['unplayable', 'plays: unplayable'],
    ['flawless', 'plays: flawless'],
    ['7:47', '7:47: end, as planned'],
    ['45 min', '45:00: end, as planned'],
    ['1h20', '1:20:00: end, as planned'],
    ['1h20 61%', '1:20:00: battery 61 %'],
    ['8m30s 58 fps', '8:30: 58 fps, overlay'],
    ['90 s back 25.5', '1:30: 25.5 °C at back, infrared'],
  ],
  'Fahrenheit and other units': [
    ['107 F max', 'peak 41.67 °C at “hottest spot”, infrared'],
    ['max 107F', 'peak 41.67 °C at “hottest spot”, infrared'],
    ['front 106 F at 13 min', '13:00: 41.11 °C at front, infrared'],
    ['13:00 hinge 106F', '13:00: 41.11 °C at hinge, infrared'],
    ['back 97.7 F at 8:00', '8:00: 36.5 °C at back, infrared'],
    ['screen 98°F 10:00', '10:00: 36.67 °C at screen, infrared'],
    ['peak 109.5 F at the back', 'peak 43.06 °C at back, infrared'],
    ['room 65 F', 'room: 18.33 °C'],
    ['8:00 back 97.7 °F, front 96 °F', '8:00: 36.5 °C at back, infrared; 35.56 °C at front, infrared'],
    ['0:00 75 F back', '0:00: 23.89 °C at back, infrared'],
    ['middle 92-93 F', 'peak 33.33 °C to 33.89 °C at “middle”, infrared'],
    ['chin 101 F', 'peak 38.33 °C at “chin”, infrared'],
    ['8:00 grip 95 F', '8:00: 35.0 °C at grip, infrared'],
    ['20:00 gpu 165 F', '20:00: gpu inside 73.89 °C'],
    ['20:00 cpu 180 F inside', '20:00: cpu inside 82.22 °C'],
    ['battery 104 F at 20:00', '20:00: battery inside 40.0 °C'],
    ['battery sensor 104 F at 20:00', '20:00: battery inside 40.0 °C'],
    ['1.5 GB', 'memory 1536 MB, in all'],
    ['8:00 ram 1.5 GB', '8:00: memory 1536 MB'],
    ['5200 mW at 8:00', '8:00: 5.2 W'],
    ['10.5 W from the wall at 8:00', '8:00: 10.5 W, wall'],
    ['chip up to 10.5 W', 'peak 10.5 W, chip'],
    ['wall 28 W at 8:00', '8:00: 28 W, wall'],
    ['peak 12 W', 'peak 12 W'],
    ['up to 108 F at the back', 'peak 42.22 °C at back, infrared'],
    ['98.6 degrees F back at 8:00', '8:00: 37.0 °C at back, infrared'],
    ['back 101.3 F after 20 minutes', '20:00: 38.5 °C at back, infrared'],
    ['hottest 110 F at the vent', 'peak 43.33 °C at vent, infrared'],
    ['warm to the hand', 'marker: warmth, “warm to the hand”, in all'],
    ['14:00 back 103.1F front 101F', '14:00: 39.5 °C at back, infrared; 38.33 °C at front, infrared'],
  ],
  'emulator by percent': [
    ['speed 98 %', 'speed 98 %, in-game counter'],
    ['98% speed', 'speed 98 %, in-game counter'],
    ['100% speed at 2:00', '2:00: speed 100 %, in-game counter'],
    ['4:00 speed 95–99 % in Rook Tower', '4:00: speed 95 to 99 %, in-game counter, in “Rook Tower”'],
    ['speed 78 % in the swamp', 'speed 78 %, in-game counter, in “the swamp”'],
    ['speed about 90 %', 'speed 90 %, by eye'],
    ['emulation 100 %', 'speed 100 %, in-game counter'],
    ['4:00 speed 100 %, 60 fps', '4:00: speed 100 %, in-game counter; 60 fps, overlay'],
    [
      'speed 100% at the start, 85% at the end',
      '0:00: speed 100 %, in-game counter; 30:00: speed 85 %, in-game counter',
    ],
    [
      'first five minutes 100 % speed, then 90 %',
      '0:00: speed 100 %, in-game counter; 5:00: speed 100 %, in-game counter; 5:01: speed 90 %, in-game counter; 30:00: speed 90 %, in-game counter',
    ],
    ['speed drops to 70 % after 10 min', '10:00: speed 70 %, in-game counter'],
    ['speed up to 100 %', 'speed up to 100 %, in-game counter'],
    ['speed at least 95 %', 'speed at least 95 %, in-game counter'],
    ['stutters often', 'stutter: frequent, by eye'],
    ['8:00 stutters occasionally', '8:00: stutter: occasional, by eye'],
    ['12:00 glitch shadows missing', '12:00: marker: glitch, “glitch shadows missing”'],
    ['glitch: text is garbled', 'marker: glitch, “glitch: text is garbled”, in all'],
    ['2 glitches', 'marker: glitch, in all; marker: glitch, in all'],
    [
      '3 glitches in the castle',
      'marker: glitch, “3 glitches in the castle”, in all; marker: glitch, “3 glitches in the castle”, in all; marker: glitch, “3 glitches in the castle”, in all',
    ],
    ['froze once', 'marker: freeze, in all'],
    ['crashed twice', 'marker: crash, in all; marker: crash, in all'],
    ['crashed in the menu', '30:00: end, crashed; marker: note, “crashed in the menu”, in all'],
    ['crashed at 22:10', '22:10: end, crashed'],
    ['loading 14 s', '0:00: marker: load, “14 s”'],
    ['load time 8 s', '0:00: marker: load, “8 s”'],
    ['loaded in 20 s', '0:00: marker: load, “20 s”'],
    ['took 30 s to load', '0:00: marker: load, “30 s”'],
    ['2:00 loading 9 s', '2:00: marker: load, “9 s”'],
    ['0:00 loading until 0:35', '0:00: loading until 0:35'],
    ['menu 5:00 - 6:30', '5:00: menu until 6:30'],
    ['screen at 60 Hz', '0:00: screen at 60 Hz'],
    ['by eye 30 fps', 'about 30 fps, by eye'],
    ['own counter 30 fps', '30 fps, in-game counter'],
    ['own counter 59 fps at 3 min', '3:00: 59 fps, in-game counter'],
  ],
  'an evening by percent': [
    ['0:00 100 %', '0:00: battery 100 %'],
    ['0:30 92 %', '0:30: battery 92 %'],
    ['1:00:00 84 %', '1:00:00: battery 84 %'],
    ['1 h 84 %', '1:00:00: battery 84 %'],
    ['1 h 30 min 76 %', '1:30:00: battery 76 %'],
    ['2 h 68 %', '2:00:00: battery 68 %'],
    ['2 h 10 min charging', null],
    ['2 h 40 min charger off', '0:00: charging until 2:40:00'],
    ['40:00 plugged in', null],
    ['55:00 unplugged', '0:00: charging until 55:00'],
    ['plugged in at 2:00', '2:00: charging until 30:00'],
    ['unplugged at 2:30', '0:00: charging until 2:30'],
    ['charging from 10:00 to 25:00', '10:00: charging until 25:00'],
    ['charger on 10:00', '10:00: charging until 30:00'],
    ['100% at the start, 65% at the end', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['about 65% at the end', '30:00: battery about 65 %'],
    ['65 % left', '30:00: battery 65 %'],
    ['battery 100 to 65 %', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['from 100 % to 65 %', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['battery 100-65 %', '0:00: battery 100 %; 30:00: battery 65 %'],
    ['15:00 battery 81 %, charging', '15:00: battery 81 %, charging'],
    ['battery 81 % at 15:00', '15:00: battery 81 %'],
    ['81 % after an hour', '1:00:00: battery 81 %'],
    ['down to 81 % after 40 min', '40:00: battery 81 %'],
    ['fan on at 5:00', '5:00: fan until 30:00'],
    ['fan off at 15:00', '0:00: fan until 15:00'],
    ['boost on 3:00', '3:00: boost until 30:00'],
    ['boost off 9:00', '0:00: boost until 9:00'],
    ['case off at 10:00', '0:00: case until 10:00'],
    ['cooler 12:00-20:00', '12:00: cooler until 20:00'],
    ['cooler from 12:00 to 20:00', '12:00: cooler until 20:00'],
    ['power saver on at 20:00', '20:00: saving until 30:00'],
    ['docked at 5:00', '5:00: docked until 30:00'],
  ],
  'end pages and tools': [
    [
      'end page: average 58.2, median 59, hold 97 %, lowest 41, highest 60, 1 % low 44, length 12 min',
      'summary screen: average 58.2, median 59, near median 97 %, lowest 41, highest 60, 1 % low 44, length 12 min, tool',
    ],
    ['avg 52, 1% low 38', 'summary screen: average 52, 1 % low 38, tool'],
    ['average 52 fps', 'summary screen: average 52, tool'],
    ['avg fps 52.4', 'summary screen: average 52.4, tool'],
    ['median 59, 87 % stable', 'summary screen: median 59, near median 87 %, tool'],
    ['median 59, 87 % near the median', 'summary screen: median 59, near median 87 %, tool'],
    ['median 59.0 fps, 97 % hold', 'summary screen: median 59.0, near median 97 %, tool'],
    ['min 41 max 60 fps', 'summary screen: lowest 41, highest 60, tool'],
    ['min 41, avg 55, max 60', 'summary screen: average 55, lowest 41, highest 60, tool'],
    ['lowest 31 fps', 'summary screen: lowest 31, tool'],
    ['1% low 38', 'summary screen: 1 % low 38, tool'],
    ['max 60 fps', 'summary screen: highest 60, tool'],
    ['highest 61', 'summary screen: highest 61, tool'],
    ['average 45.5 fps, min 22', 'summary screen: average 45.5, lowest 22, tool'],
    ['stability 96 %', 'summary screen: near median 96 %, tool'],
    ['hold 92 %', 'summary screen: near median 92 %, tool'],
    ['tool: average 58.2, lowest 41', 'summary screen: average 58.2, lowest 41, tool'],
    ['tool average 47 fps, 1 % low 30', 'summary screen: average 47, 1 % low 30, tool'],
    ['avg 58 in the town', 'summary screen: average 58, tool, in “the town”'],
    ['averaged 58 fps', 'summary screen: average 58, tool'],
    ['fps avg 58 min 41', 'summary screen: average 58, lowest 41, tool'],
    ['gpu 96 %, cpu 40 %, 1.5 GB', 'CPU load 40 %, GPU load 96 %, memory 1536 MB, in all'],
    ['cpu 40 %', 'CPU load 40 %, in all'],
    ['gpu 96%', 'GPU load 96 %, in all'],
    ['memory 2 GB', 'memory 2048 MB, in all'],
    ['8:00 gpu 96 % cpu 40 %', '8:00: CPU load 40 %, GPU load 96 %'],
    ['cpu 95 C max', 'peak cpu inside 95.0 °C'],
    ['gpu up to 82 °C', 'peak gpu inside 82.0 °C'],
    ['chip 10.5 W', '10.5 W, chip, in all'],
    ['power 5.4 W', '5.4 W, in all'],
  ],
  'a course and several times in a line': [
    ['0:00 100%, 30:00 81%', '0:00: battery 100 %; 30:00: battery 81 %'],
    [
      '5:00 60, 10:00 58, 15:00 45 fps',
      '5:00: 60 fps, overlay; 10:00: 58 fps, overlay; 15:00: 45 fps, overlay',
    ],
    [
      '51-55 at 5:00, 30 at 25:00, 20-30 at 28:00',
      '5:00: 51 to 55 fps, overlay; 25:00: 30 fps, overlay; 28:00: 20 to 30 fps, overlay',
    ],
    [
      '5:00 51-55 25:00 30 28:00 20-30',
      '5:00: 51 to 55 fps, overlay; 25:00: 30 fps, overlay; 28:00: 20 to 30 fps, overlay',
    ],
    ['5:00 60 fps; 25:00 30 fps', '5:00: 60 fps, overlay; 25:00: 30 fps, overlay'],
    ['back 30 at start, 41 at the end', '0:00: 30.0 °C at back, infrared; 30:00: 41.0 °C at back, infrared'],
    [
      'back 25 C at the start, 41.7 C after 18 min',
      '0:00: 25.0 °C at back, infrared; 18:00: 41.7 °C at back, infrared',
    ],
    ['8:00 back 36.5, 18:00 back 41.7', '8:00: 36.5 °C at back, infrared; 18:00: 41.7 °C at back, infrared'],
    [
      '8:00 back 36.5; 13:00 40.7; 18:00 41.7',
      '8:00: 36.5 °C at back, infrared; 13:00: 40.7 °C at back, infrared; 18:00: 41.7 °C at back, infrared',
    ],
    ['60 fps at 5:00 and 45 fps at 25:00', '5:00: 60 fps, overlay; 25:00: 45 fps, overlay'],
    ['60 at 1:00, 36 at 20:00', '1:00: 60 fps, overlay; 20:00: 36 fps, overlay'],
    ['60 at 1 min, 36 at 20 min', '1:00: 60 fps, overlay; 20:00: 36 fps, overlay'],
    [
      '100 % at 0:00, 92 % at 18:00, 81 % at 45:00',
      '0:00: battery 100 %; 18:00: battery 92 %; 45:00: battery 81 %',
    ],
    ['at first 60, later 45', '0:00: 60 fps, overlay; 30:00: 45 fps, overlay'],
    ['60 fps at first, then 40', '0:00: 60 fps, overlay; 30:00: 40 fps, overlay'],
    ['60, then 45 after 20 min', '0:00: 60 fps, overlay; 20:00: 45 fps, overlay'],
    ['starts at 60 fps, ends at 36', '0:00: 60 fps, overlay; 30:00: 36 fps, overlay'],
    ['starts at 100 %, ends at 65 %', '0:00: battery 100 %; 30:00: battery 65 %'],
    [
      'first 5 min 60 fps, then 50',
      '0:00: 60 fps, overlay; 5:00: 60 fps, overlay; 5:01: 50 fps, overlay; 30:00: 50 fps, overlay',
    ],
    [
      'first twenty minutes 60, then 30',
      '0:00: 60 fps, overlay; 20:00: 60 fps, overlay; 20:01: 30 fps, overlay; 30:00: 30 fps, overlay',
    ],
    [
      'for the first quarter of an hour 60 fps, then 40',
      '0:00: 60 fps, overlay; 15:00: 60 fps, overlay; 15:01: 40 fps, overlay; 30:00: 40 fps, overlay',
    ],
    [
      '5 min 60 fps, 10 min 58 fps, 20 min 45 fps',
      '5:00: 60 fps, overlay; 10:00: 58 fps, overlay; 20:00: 45 fps, overlay',
    ],
    ['8:00 front 35 back 36.5', '8:00: 35.0 °C at front, infrared; 36.5 °C at back, infrared'],
    ['5:00 58 fps, back 34, 96 %', '5:00: 58 fps, overlay; 34.0 °C at back, infrared; battery 96 %'],
    ['10:00 55 fps back 38.1 91%', '10:00: 55 fps, overlay; 38.1 °C at back, infrared; battery 91 %'],
    ['30:00 36 fps, 65 %, back 42.8', '30:00: 36 fps, overlay; battery 65 %; 42.8 °C at back, infrared'],
    ['1:00 60 fps smooth', '1:00: stutter: none, by eye; 60 fps, overlay'],
    ['20:00 45 fps in combat', '20:00: 45 fps, overlay, in “combat”'],
    ['20:00 45 fps near the mill', '20:00: 45 fps, overlay, in “near the mill”'],
    ['20:00 45 fps, looks washed out', '20:00: 45 fps, overlay; marker: note, “looks washed out”'],
  ],
  'the hand, words and remarks': [
    ['hot', 'marker: warmth, “hot”, in all'],
    ['cool', 'marker: warmth, “cool”, in all'],
    ['warm not hot', 'marker: warmth, “warm not hot”, in all'],
    ['barely warm at all', 'marker: warmth, “barely warm at all”, in all'],
    ['a bit warm after 15 min', '15:00: marker: warmth, “a bit warm”'],
    ['back gets hot', 'marker: warmth, “back gets hot”, in all'],
    ['uncomfortably hot at 25:00', '25:00: marker: warmth, “uncomfortably hot”'],
    ['screen is warm', 'marker: warmth, “screen is warm”, in all'],
    ['still cool at 10:00', '10:00: marker: warmth, “still cool”'],
    ['comfortable to hold', 'marker: warmth, “comfortable to hold”, in all'],
    ['warm in the hand after 20 minutes', '20:00: marker: warmth, “warm in the hand”'],
    ['often stumbles', 'stutter: frequent, by eye'],
    ['stumbles: none', 'stutter: none, by eye'],
    ['rarely stutters', 'stutter: occasional, by eye'],
    ['stutters constantly', 'stutter: constant, by eye'],
    ['hitches often', 'stutter: frequent, by eye'],
    ['plays well in places', null],
    ['playable', 'plays: playable'],
    ['plays: barely', 'plays: barely'],
    ['barely', 'plays: barely'],
    ['flawless in the town', 'plays: flawless, in “the town”'],
    ['good', 'plays: good'],
    ['8:00 note the gulls are back', '8:00: marker: note, “the gulls are back”'],
    ['moment 12:00 boss fight', '12:00: marker: moment, “boss fight”'],
    ['8:00 stutter on landing', '8:00: marker: stutter, “stutter on landing”'],
    ['12:30 froze for 2 s near the bridge', '12:30: marker: freeze, “froze for 2 s near the bridge”'],
    ['hung at 14:00', '14:00: marker: freeze'],
    ['three freezes', 'marker: freeze, in all; marker: freeze, in all; marker: freeze, in all'],
    ['stopped at 25 min', '25:00: end, stopped early'],
    ['stopped early at 25:00', '25:00: end, stopped early'],
    ['glitches in the castle', 'marker: glitch, “glitches in the castle”, in all'],
    ['dimmed at 41:00', '41:00: marker: dim'],
    ['20:00 scene hard track', '20:00: scene “hard track”'],
    ['room 18.5', 'room: 18.5 °C'],
    ['room 22 C', 'room: 22 °C'],
  ],
};
const HALF_AN_HOUR = 30 * 60_000;
/** Lines that have to be read as a person would; none may be taken for another thing. */
const SHARE = 285 / 300;

const all = Object.values(WAYS).flat();

describe('lines as people write them', () => {
  it.each(Object.entries(WAYS))('%s', (_, lines) => {
    for (const [line, taken] of lines) {
      const [read] = readNotebook(line, { unit: 'C', lengthMs: HALF_AN_HOUR });
      expect([line, read!.understood]).toEqual([line, taken]);
      if (taken === null) expect(read!.problem!.length).toBeGreaterThan(20);
    }
  });
  it('are read nearly all, in ten ways of writing, and the rest is pointed at', () => {
    const read = all.filter(
      ([line]) => readNotebook(line, { unit: 'C', lengthMs: HALF_AN_HOUR })[0]!.problem === null,
    );
    process.stdout.write(
      `Notebook: ${read.length} of ${all.length} lines are read (${((100 * read.length) / all.length).toFixed(1)} %).\n`,
    );
    expect(Object.keys(WAYS)).toHaveLength(10);
    expect(new Set(all.map(([line]) => line)).size).toBeGreaterThanOrEqual(300);
    expect(read.length / all.length).toBeGreaterThanOrEqual(SHARE);
  });
});

const page = (text: string, lengthMs: number | null = HALF_AN_HOUR): (string | null)[] =>
  readNotebook(text, { unit: 'C', lengthMs }).map((line) => line.understood);

describe('a line says more of another one', () => {
  it('what is switched on is on until it is switched off', () =>
    expect(
      page('2:00 charging\n12:00 cooler on\ncharger off 2:30\n20:00 cooler off\n25:00 cooler on'),
    ).toEqual([
      '2:00: charging until 2:30',
      '12:00: cooler until 20:00',
      '2:30: charging ends, which began at 2:00',
      '20:00: cooler ends, which began at 12:00',
      '25:00: cooler until 30:00',
    ]));
  it('a heading says what the numbers below it count, until a blank line', () => {
    expect(page('fps:\n5:00 60\n25:00 30\n\n5:00 60')).toEqual([
      'what follows: rates',
      '5:00: 60 fps, overlay',
      '25:00: 30 fps, overlay',
      null,
    ]);
    expect(page('back\n8:00 36.5\n13:00 40.7')).toEqual([
      'what follows: temperatures at back',
      '8:00: 36.5 °C at back, infrared',
      '13:00: 40.7 °C at back, infrared',
    ]);
  });
  it('a bare number counts what the only one of the line before did', () => {
    expect(page('5:00 60 fps\n10:00 58\n15:00 45')).toEqual([
      '5:00: 60 fps, overlay',
      '10:00: 58 fps, overlay',
      '15:00: 45 fps, overlay',
    ]);
    expect(page('8:00 back 36.5\n13:00 40.7')[1]).toBe('13:00: 40.7 °C at back, infrared');
    expect(page('0:00 100 %\n30:00 92')[1]).toBe('30:00: battery 92 %');
    expect(page('5:00 60 fps, back 34\n10:00 58')[1]).toBeNull();
  });
  it('the room is told, and is no reading', () => {
    const [line] = readNotebook('room 65 F', { unit: 'C' });
    expect(line).toMatchObject({ roomC: 18.33, entries: [], problem: null });
  });
});

describe('what nobody timed', () => {
  it('stands at the end of the run without saying that it was there', () => {
    const [load] = readNotebook('gpu 96 %, cpu 40 %', { unit: 'C', lengthMs: HALF_AN_HOUR });
    expect(load!.entries).toEqual([{ type: 'load', atMs: HALF_AN_HOUR, whole: true, gpu: 96, cpu: 40 }]);
  });
  it('is no end where nobody knows how long it was', () =>
    expect(readNotebook('crashed', { unit: 'C' })[0]!.entries).toEqual([
      { type: 'mark', atMs: 0, kind: 'crash', whole: true },
    ]));
  it('nothing that was read is lost where the length is unknown', () => {
    expect(page('drops from 60 to 40', null)).toEqual(['0:00: 60 fps, overlay; 40 fps, overlay']);
    expect(page('60 at first, 45 at the end', null)).toEqual(['0:00: 60 fps, overlay; 45 fps, overlay']);
    // what has to have a time is asked for
    for (const line of ['100% to 65%', 'about 65% at the end', '12:00 cooler on']) {
      const [read] = readNotebook(line, { unit: 'C' });
      expect([line, read!.entries, read!.problem]).toEqual([
        line,
        [],
        expect.stringMatching(/^The length is missing\./),
      ]);
    }
    expect(page('100% to 65%\nplayed 30 min', null)[0]).toBe('0:00: battery 100 %; 30:00: battery 65 %');
  });
  it('“then” is a moment after the change where the length is unknown', () =>
    expect(page('first ten minutes 60, then 40', null)).toEqual([
      '0:00: 60 fps, overlay; 10:00: 60 fps, overlay; 10:01: 40 fps, overlay',
    ]));
});
