-- The show as it was when it was made, as JSON: what its whole journal leads on from.
alter table shows add column origin clob;
