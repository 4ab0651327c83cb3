-- Motion is told by the field now, not by how lightness changes: pages have what they need measured again.
DELETE FROM "clip_statistics";
