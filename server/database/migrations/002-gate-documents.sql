-- Gates become documents of one shape for every form: inputs and outcomes in lists, labels with their looks apart from the bands.
create function pg_temp.gate_document(old jsonb) returns jsonb language sql as $$
  select jsonb_build_object(
    'schema', 1, 'form', 'scale', 'name', old -> 'name', 'on', old #> '{input,name}', 'cuts', old -> 'cuts',
    'floor', old -> 'floor', 'ceiling', old -> 'ceiling', 'otherwise', null,
    'inputs', jsonb_build_array(jsonb_build_object(
      'name', old #> '{input,name}', 'type', 'number', 'isSet', false, 'unit', old #> '{input,unit}',
      'source', '{"kind": "given"}'::jsonb, 'expected', null, 'precision', '{"kind": "as measured"}'::jsonb, 'blank', null)),
    'bands', (select jsonb_agg(jsonb_build_object('entries', jsonb_build_array(jsonb_build_object('is', band -> 'label'))) order by place)
      from jsonb_array_elements(old -> 'bands') with ordinality as b (band, place)),
    'outcomes', jsonb_build_array(jsonb_build_object('name', 'Label', 'type', 'text', 'labels', (
      select jsonb_agg(jsonb_build_object('value', band -> 'label', 'colour', band -> 'colour', 'mark', band -> 'mark', 'rank', null) order by place)
      from (select distinct on (band ->> 'label') band, place
        from jsonb_array_elements(old -> 'bands') with ordinality as b (band, place) order by band ->> 'label', place) as first_of_label))))
$$;

update gate set draft = pg_temp.gate_document(draft);
update gate_version set document = pg_temp.gate_document(document);
