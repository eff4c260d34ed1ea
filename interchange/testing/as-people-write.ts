/** Nested conditionals and charts as different people write them, each with labels that were worked out by hand. */
import type { ConditionalLanguage } from '../conditional/gate-from-conditional'

/** Values by input, in canonical text; null for blank. The label is empty where there is none. */
export type Known = readonly [values: Readonly<Record<string, string | null>>, label: string]

export interface WrittenConditional {
  language: ConditionalLanguage
  text: string
  known: readonly Known[]
}

const of = (language: ConditionalLanguage) => (text: string, ...known: Known[]): WrittenConditional => ({ language, text, known })
const formula = of('openformula')
const sql = of('sql')
const feel = of('feel')

export const CONDITIONALS: readonly WrittenConditional[] = [
  formula('=IF(Decay>=40;"Failing";IF(Decay>=25;"Weak";IF(Decay>=12;"Watch";"Sound")))', [{ Decay: '40' }, 'Failing'], [{ Decay: '24.9' }, 'Watch'], [{ Decay: '0' }, 'Sound']),
  formula('=IF(Decay<12,"Sound",IF(Decay<25,"Watch",IF(Decay<40,"Weak","Failing")))', [{ Decay: '12' }, 'Watch'], [{ Decay: '39.99' }, 'Weak']),
  formula('=if( Decay > 40 , "Failing" , if( Decay > 25 , "Weak" , "Sound" ) )', [{ Decay: '40' }, 'Weak'], [{ Decay: '25' }, 'Sound']),
  formula('=IFS(Decay>=40;"Failing";Decay>=25;"Weak";TRUE();"Sound")', [{ Decay: '39' }, 'Weak'], [{ Decay: '3' }, 'Sound']),
  formula('=IF(AND(Lean>15;Height>10);"Fell";IF(OR(Lean>15;Height>25);"Look";"Leave"))', [{ Lean: '16', Height: '11' }, 'Fell'], [{ Lean: '16', Height: '9' }, 'Look'], [{ Lean: '2', Height: '26' }, 'Look'], [{ Lean: '2', Height: '9' }, 'Leave']),
  formula('=IF(NOT(Place="verge");IF(Decay>30;"this week";"this month");"at the next round")', [{ Place: 'school', Decay: '31' }, 'this week'], [{ Place: 'road', Decay: '30' }, 'this month'], [{ Place: 'verge', Decay: '90' }, 'at the next round']),
  formula('=IF([.B2]>=90;"crown";IF([.B2]>=60;"climb";"ground"))', [{ B2: '90' }, 'crown'], [{ B2: '59.9' }, 'ground']),
  formula('=IF($B$2>=0.9;"crown";IF($B$2>=.6;"climb";"ground"))', [{ B2: '0.9' }, 'crown'], [{ B2: '0.65' }, 'climb']),
  formula('=IF(AVERAGE(B2:D2)>=4;"crown";"come again")', [{ B2: '4', C2: '4', D2: '4' }, 'crown'], [{ B2: '5', C2: '3', D2: '3' }, 'come again']),
  formula('=VLOOKUP(Mean;{0;"come again"|2;"ground"|3;"climb"|4;"crown"};2)', [{ Mean: '1.99' }, 'come again'], [{ Mean: '2' }, 'ground'], [{ Mean: '4.5' }, 'crown']),
  formula('=LOOKUP(Mean;{0;2;3};{"ground";"climb";"crown"})', [{ Mean: '2.5' }, 'climb'], [{ Mean: '3' }, 'crown']),
  formula('=IF(Mean>=4,"crown",IF(Mean>=3,"climb",IF(Mean>=2,"ground","")))', [{ Mean: '3' }, 'climb'], [{ Mean: '1' }, '']),
  formula('=IF(AND(Decay>=12;Decay<25);"Watch";IF(Decay>=25;"Weak";"Sound"))', [{ Decay: '12' }, 'Watch'], [{ Decay: '25' }, 'Weak'], [{ Decay: '11' }, 'Sound']),
  formula('=IF(Species="ash";IF(Decay>10;"Fell";"Climb and look");"Next round")', [{ Species: 'ash', Decay: '11' }, 'Fell'], [{ Species: 'ash', Decay: '10' }, 'Climb and look'], [{ Species: 'lime', Decay: '90' }, 'Next round']),
  formula('=IF(OR(Place="school";Place="play area");"High";IF(Place="road";"Middle";"Low"))', [{ Place: 'play area' }, 'High'], [{ Place: 'road' }, 'Middle'], [{ Place: 'verge' }, 'Low']),
  formula('=IF(Height/Trunk>0.8;"Whip";IF(Height/Trunk>0.5;"Slender";"Stout"))', [{ Height: '9', Trunk: '10' }, 'Whip'], [{ Height: '6', Trunk: '10' }, 'Slender'], [{ Height: '5', Trunk: '10' }, 'Stout']),
  formula('=IF(ROUND(Height/Trunk;1)>=0.8;"Whip";"Stout")', [{ Height: '75', Trunk: '100' }, 'Whip'], [{ Height: '74', Trunk: '100' }, 'Stout']),
  formula('=IF(Reports=0;"Quiet";IF(Reports<3;"Reported";"Again and again"))', [{ Reports: '0' }, 'Quiet'], [{ Reports: '2' }, 'Reported'], [{ Reports: '3' }, 'Again and again']),
  formula('=IFERROR(IF(Height/Trunk>0.8;"slim";"stout");"no trunk")', [{ Height: '9', Trunk: '10' }, 'slim'], [{ Height: '3', Trunk: '0' }, 'no trunk']),
  formula('=IF(Years<2;1;IF(Years<5;2;IF(Years<8;3;4)))', [{ Years: '1.9' }, '1'], [{ Years: '5' }, '3'], [{ Years: '8' }, '4']),
  sql("CASE WHEN decay >= 40 THEN 'Failing' WHEN decay >= 25 THEN 'Weak' WHEN decay >= 12 THEN 'Watch' ELSE 'Sound' END", [{ decay: '25' }, 'Weak'], [{ decay: '1' }, 'Sound']),
  sql("case\n  when decay < 12 then 'Sound'\n  when decay < 25 then 'Watch'\n  when decay < 40 then 'Weak'\n  else 'Failing'\nend as band", [{ decay: '12' }, 'Watch'], [{ decay: '40' }, 'Failing']),
  sql("SELECT tree_no, CASE WHEN lean BETWEEN 10 AND 20 THEN 'Look' WHEN lean > 20 THEN 'Fell' END AS what FROM trees;", [{ lean: '10' }, 'Look'], [{ lean: '20' }, 'Look'], [{ lean: '21' }, 'Fell'], [{ lean: '9' }, '']),
  sql("CASE species WHEN 'ash' THEN 'Fell' WHEN 'lime' THEN 'Climb' ELSE 'Leave' END", [{ species: 'lime' }, 'Climb'], [{ species: 'oak' }, 'Leave']),
  sql("CASE WHEN place IN ('school', 'play area') AND decay > 25 THEN 'this week' WHEN decay > 25 THEN 'this month' ELSE 'at the next round' END", [{ place: 'school', decay: '26' }, 'this week'], [{ place: 'verge', decay: '26' }, 'this month'], [{ place: 'school', decay: '25' }, 'at the next round']),
  sql("CASE WHEN next_due < DATE '2026-03-02' THEN 'overdue' WHEN next_due < DATE '2026-06-01' THEN 'this season' ELSE 'later' END", [{ next_due: '2026-03-01' }, 'overdue'], [{ next_due: '2026-03-02' }, 'this season'], [{ next_due: '2026-06-01' }, 'later']),
  sql("CASE WHEN species LIKE 'oak%' THEN 'oaks' WHEN species LIKE '%maple' THEN 'maples' ELSE 'others' END", [{ species: 'oak, red' }, 'oaks'], [{ species: 'field maple' }, 'maples'], [{ species: 'maple, field' }, 'others']),
  sql("CASE WHEN decay IS NULL THEN 'not measured' WHEN decay > 40 THEN 'Failing' ELSE 'Sound' END", [{ decay: null }, 'not measured'], [{ decay: '41' }, 'Failing'], [{ decay: '40' }, 'Sound']),
  sql("CASE WHEN NOT (place = 'verge') AND lean > 15 THEN 'Fell' WHEN place <> 'verge' THEN 'Look' ELSE 'Leave' END", [{ place: 'road', lean: '16' }, 'Fell'], [{ place: 'road', lean: '1' }, 'Look'], [{ place: 'verge', lean: '40' }, 'Leave']),
  sql("CASE WHEN COALESCE(decay, 0) >= 40 THEN 'Failing' ELSE 'Sound' END", [{ decay: null }, 'Sound'], [{ decay: '40' }, 'Failing']),
  sql("CASE WHEN height / trunk > 0.8 THEN CASE WHEN lean > 10 THEN 'Fell' ELSE 'Prop' END ELSE 'Leave' END", [{ height: '9', trunk: '10', lean: '11' }, 'Fell'], [{ height: '9', trunk: '10', lean: '10' }, 'Prop'], [{ height: '7', trunk: '10', lean: '11' }, 'Leave']),
  sql('SELECT CASE WHEN t."Stands by" = \'road\' THEN 2 WHEN t."Stands by" = \'school\' THEN 3 ELSE 1 END FROM trees t', [{ 'Stands by': 'school' }, '3'], [{ 'Stands by': 'verge' }, '1']),
  sql("CASE WHEN mean >= 4.0 THEN 'crown' WHEN mean >= 3.0 THEN 'climb' WHEN mean >= 2.0 THEN 'ground' ELSE 'come again' END", [{ mean: '4' }, 'crown'], [{ mean: '3.999' }, 'climb']),
  feel('if Decay >= 40 then "Failing" else if Decay >= 25 then "Weak" else "Sound"', [{ Decay: '40' }, 'Failing'], [{ Decay: '12' }, 'Sound']),
  feel('if Decay in [12..25) then "Watch" else if Decay in [25..40) then "Weak" else if Decay >= 40 then "Failing" else "Sound"', [{ Decay: '12' }, 'Watch'], [{ Decay: '25' }, 'Weak'], [{ Decay: '3' }, 'Sound']),
  feel('if Place in ("school", "play area") and Lean > 10 then "Fell" else if Lean > 20 then "Look" else "Leave"', [{ Place: 'school', Lean: '11' }, 'Fell'], [{ Place: 'road', Lean: '21' }, 'Look'], [{ Place: 'road', Lean: '11' }, 'Leave']),
  feel('if Next due < @"2026-03-02" then "overdue" else "in time"', [{ 'Next due': '2026-03-01' }, 'overdue'], [{ 'Next due': '2026-03-02' }, 'in time']),
  feel('if not(Place = "verge") then (if Decay > 30 then "this week" else "this month") else "at the next round"', [{ Place: 'road', Decay: '31' }, 'this week'], [{ Place: 'verge', Decay: '31' }, 'at the next round']),
  feel('if starts with(Species, "oak") then "oaks" else if Species = null then "unknown" else "others"', [{ Species: 'oak, red' }, 'oaks'], [{ Species: null }, 'unknown'], [{ Species: 'ash' }, 'others']),
  feel('if Height / Trunk > 0.8 then "Whip" else if Height / Trunk > 0.5 then "Slender" else "Stout"', [{ Height: '81', Trunk: '100' }, 'Whip'], [{ Height: '50', Trunk: '100' }, 'Stout']),
]

export interface WrittenChart {
  text: string
  /** Values of what the chart is on, each with its label; empty where there is none. */
  known: readonly (readonly [value: string, label: string])[]
}

const chart = (text: string, ...known: [string, string][]): WrittenChart => ({ text, known })

export const CHARTS: readonly WrittenChart[] = [
  chart('90\tcrown\n60\tclimb\n0\tground', ['90', 'crown'], ['89.9', 'climb'], ['0', 'ground'], ['-1', '']),
  chart('0\tground\n60\tclimb\n90\tcrown', ['60', 'climb'], ['59', 'ground']),
  chart('Watch\t12\nFailing\t40\nSound\t0\nWeak\t25', ['12', 'Watch'], ['39', 'Weak'], ['400', 'Failing']),
  chart('Decay\tBand\n40\tFailing\n25\tWeak\n12\tWatch\n0\tSound', ['25', 'Weak'], ['11', 'Sound']),
  chart('Decay (%),Band\n40,Failing\n12,Watch\n0,Sound', ['40', 'Failing'], ['12', 'Watch']),
  chart('Band;From\nFailing;40\nWatch;12,5\nSound;0', ['12.5', 'Watch'], ['12.4', 'Sound']),
  chart('80+ | crown\n65–79 | climb\n50–64 | ground\n< 50 | come again', ['80', 'crown'], ['79', 'climb'], ['49', 'come again']),
  chart('90-100\tcrown\n60-89\tclimb\n0-59\tground', ['100', 'crown'], ['60', 'climb'], ['59', 'ground'], ['101', '']),
  chart('90 to 100\tcrown\n60 to 90\tclimb\n0 to 60\tground', ['60', 'climb'], ['30', 'ground']),
  chart('under 12\tSound\n12 to under 25\tWatch\n25 to under 40\tWeak\n40 and over\tFailing', ['11.9', 'Sound'], ['12', 'Watch'], ['40', 'Failing']),
  chart('< 12\tSound\n>= 12 and < 25\tWatch\n>= 25 and < 40\tWeak\n>= 40\tFailing', ['12', 'Watch'], ['25', 'Weak'], ['39.99', 'Weak']),
  chart('≤ 12\tSound\n> 12\tFailing', ['12', 'Sound'], ['12.01', 'Failing']),
  chart('up to 12 %  Sound\nover 12 %  Failing', ['12', 'Sound'], ['13', 'Failing']),
  chart('[0..12)\tSound\n[12..25)\tWatch\n[25..100]\tFailing', ['12', 'Watch'], ['100', 'Failing'], ['101', '']),
  chart('at least 8\tCrew lead\nat least 5\tClimber\nat least 2\tGround crew\nless than 2\tFirst seasons', ['8', 'Crew lead'], ['7.9', 'Climber'], ['1', 'First seasons']),
  chart('From\tTo\tLabel\n0\t10\tlow\n10\t20\tmiddle\n20\t30\thigh', ['10', 'middle'], ['5', 'low'], ['30', 'high']),
  chart('Min\tMax\tLabel\n0\t49\tground\n50\t64\tclimb\n65\t\tcrown', ['49', 'ground'], ['64', 'climb'], ['650', 'crown']),
  chart('Up to\tLabel\n12\tSound\n25\tWatch\n100\tFailing', ['12', 'Sound'], ['13', 'Watch'], ['25.5', 'Failing']),
  chart('90 crown\n60 climb\n0 ground', ['91', 'crown'], ['60', 'climb']),
  chart('90 and over very good\n60 to under 90 good\nunder 60 not so good', ['90', 'very good'], ['60', 'good'], ['59', 'not so good']),
  chart('crown 90–100\nclimb 60–89\nground 0–59', ['95', 'crown'], ['75', 'climb'], ['10', 'ground']),
  chart('crown (90–100)\nclimb (60–89)\nground (0–59)', ['90', 'crown'], ['60', 'climb']),
  chart('>= 50: high\n< 50: low', ['50', 'high'], ['49', 'low']),
  chart('40 -> Failing\n12 -> Watch\n0 -> Sound', ['40', 'Failing'], ['3', 'Sound']),
  chart('| Mark | Grade |\n|---|---|\n| 0 | low |\n| 50 | high |', ['50', 'high'], ['1', 'low']),
  chart('Stem slenderness\nRatio\tStem\n80\tWhip\n50\tSlender\n0\tStout', ['80', 'Whip'], ['79', 'Slender']),
  chart('Mean\tAward\tSeats\n4\tCrown\t3\n3\tClimb\t2\n0\tGround\t0', ['4', 'Crown'], ['3.5', 'Climb']),
  chart('80+\tWhip\n50\tSlender\nbelow 50\tStout', ['80', 'Whip'], ['79', 'Slender'], ['49', 'Stout']),
  chart('-5\tNearly\n0\tReached\n-100\tMissed', ['-5', 'Nearly'], ['0', 'Reached'], ['-6', 'Missed']),
  chart('1,000\tlarge\n100\tmiddle\n0\tsmall', ['1000', 'large'], ['999', 'middle']),
  chart('40\tFailing\n12\tWatch\notherwise\tSound', ['40', 'Failing'], ['12', 'Watch'], ['1', 'Sound']),
]
