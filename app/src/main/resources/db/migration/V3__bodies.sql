-- A show's settings, a part and a clip are each saved whole, as JSON, and nothing asks what is in
-- them: one row for each, in place of a row for each layer and note.
alter table shows add column settings clob;
update shows set settings = cast(json_object(
  'click': json_object('on': click_on, 'when': click_when, 'sound': click_sound,
    'level': click_level, 'dotted': click_dotted),
  'recording': json_object('entersOn': enters_on, 'closesOn': closes_on,
    'forgiveness': forgiveness, 'lengthRule': length_rule, 'fixedUnits': fixed_units,
    'overdubAfter': overdub_after, 'countInBars': count_in_bars, 'breatherBars': 0,
    'mergePedals': false, 'fromFirstNote': from_first),
  'master': json_object('level': -3, 'echo': '1/8', 'repeats': 35, 'tone': 4000, 'room': 1.8),
  'form': json_array()) as clob);
alter table shows alter column settings set not null;
alter table shows drop column click_on, click_when, click_sound, click_level, click_dotted,
  enters_on, closes_on, forgiveness, length_rule, fixed_units, overdub_after, count_in_bars,
  from_first;

alter table parts add column body clob;
update parts set body = cast(json_object(
  'id': id, 'name': name, 'pennant': mod(id - 1, 16),
  'sound': json_object('drums': drums, 'program': program),
  'inputGrid': json_object(
    'grid': case grid
      when 'QUARTER' then '1/4' when 'EIGHTH' then '1/8' when 'SIXTEENTH' then '1/16'
      when 'THIRTY_SECOND' then '1/32' when 'SIXTY_FOURTH' then '1/64'
      when 'QUARTER_TRIPLET' then '1/4T' when 'EIGHTH_TRIPLET' then '1/8T'
      when 'SIXTEENTH_TRIPLET' then '1/16T' when 'THIRTY_SECOND_TRIPLET' then '1/32T'
      else 'off' end,
    'strength': strength, 'swing': swing, 'endsToo': ends_too),
  'input': json_object('channel': null, 'transpose': 0, 'velocity': null, 'offset': 0,
    'monitoring': 'ARMED'),
  'leaving': 'CUT',
  'balance': json_object('level': 0, 'pan': 0, 'muted': false, 'solo': false, 'echo': 0,
    'room': 15),
  'shelf': json_array()) as clob);
alter table parts alter column body set not null;
alter table parts drop column name, drums, program, grid, strength, swing, ends_too;

alter table clips add column body clob;
create table layer_bodies as
  select l.show_id, l.clip_id, l.peeled, l.place,
    json_object('number': l.number,
      'notes': coalesce((
        select json_arrayagg(
          json_array(n.id, n.pitch, n.velocity, n.played, n.meant, n.length) order by n.place)
        from notes n
        where n.show_id = l.show_id and n.clip_id = l.clip_id and n.peeled = l.peeled
          and n.layer = l.place), json_array()),
      'moves': json_array()) as body
  from layers l;
update clips c set body = cast(json_object(
  'id': id, 'letter': letter, 'name': '',
  'window': json_object('start': window_start, 'length': window_length),
  'unit': 'BAR', 'recordedAt': window_start,
  'manner': json_object('ring': ring, 'pickup': 0, 'entersOn': null, 'inStep': false,
    'underWay': true),
  'take': json_object('number': 1, 'name': '', 'partial': false),
  'others': json_array(),
  'layers': coalesce((
    select json_arrayagg(b.body order by b.place) from layer_bodies b
    where b.show_id = c.show_id and b.clip_id = c.id and not b.peeled), json_array()),
  'peeled': coalesce((
    select json_arrayagg(b.body order by b.place) from layer_bodies b
    where b.show_id = c.show_id and b.clip_id = c.id and b.peeled), json_array())) as clob);
alter table clips alter column body set not null;
alter table clips drop column letter, window_start, window_length, ring;
alter table clips add column place int not null default 0;
drop table layer_bodies;
drop table notes;
drop table layers;

-- What can be undone, and what can be done again.
create table edits (
  show_id bigint  not null references shows (id) on delete cascade,
  undone  boolean not null,
  place   int     not null,
  body    clob    not null,
  primary key (show_id, undone, place)
);

alter table journal alter column command varchar(12000) not null;
