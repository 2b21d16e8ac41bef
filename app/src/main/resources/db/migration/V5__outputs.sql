-- A part may sound on an outside device: those kept before do not. "shelf" stands in parts alone, be it in
-- their rows or in what edits have changed.
update parts set body = replace(body, '"shelf":', '"output":null,"shelf":');
update edits set body = replace(body, '"shelf":', '"output":null,"shelf":');
