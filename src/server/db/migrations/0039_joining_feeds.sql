ALTER TABLE `source` ADD `waits_for` json;--> statement-breakpoint
INSERT IGNORE INTO `attribute` (`code`, `label`, `kind`, `synonyms`, `position`, `is_list`)
SELECT 'source', 'Imported from', 'text', '[]', coalesce(max(`position`), 0) + 1, false FROM `attribute` HAVING count(*) > 0;--> statement-breakpoint
INSERT IGNORE INTO `attribute` (`code`, `label`, `kind`, `synonyms`, `position`, `is_list`)
SELECT 'waitsFor', 'Waits for feeds', 'text', '[]', coalesce(max(`position`), 0) + 1, true FROM `attribute` HAVING count(*) > 0;--> statement-breakpoint
UPDATE `item` i JOIN `source` s ON s.`id` = i.`source_id`
SET i.`own_values` = json_set(i.`own_values`, '$.source', s.`name`)
WHERE json_extract(i.`own_values`, '$.source') IS NULL;
