CREATE TABLE `run_family` (
	`run_id` int NOT NULL,
	`code` varchar(190) NOT NULL,
	`name` varchar(500) NOT NULL,
	`items` int NOT NULL,
	`axes` json NOT NULL,
	`shared` json,
	`written` boolean NOT NULL DEFAULT false,
	`state_before` json,
	`state_after` json,
	CONSTRAINT `run_family_run_id_code_pk` PRIMARY KEY(`run_id`,`code`)
);
--> statement-breakpoint
CREATE TABLE `run_item` (
	`run_id` int NOT NULL,
	`row_number` int NOT NULL,
	`item_key` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`kind` varchar(12) NOT NULL,
	`group_key` varchar(190),
	`family` varchar(190),
	`read_values` json NOT NULL,
	`cells` json NOT NULL,
	`changes` json NOT NULL,
	`misfit` varchar(20),
	`chosen` boolean NOT NULL DEFAULT true,
	`applied` boolean NOT NULL DEFAULT false,
	`state_before` json,
	`kept` json,
	CONSTRAINT `run_item_run_id_row_number_pk` PRIMARY KEY(`run_id`,`row_number`),
	CONSTRAINT `run_item_key` UNIQUE(`run_id`,`item_key`)
);
--> statement-breakpoint
CREATE TABLE `saved_view` (
	`id` int AUTO_INCREMENT NOT NULL,
	`name` varchar(100) NOT NULL,
	`query` varchar(3000) NOT NULL,
	CONSTRAINT `saved_view_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `attribute` ADD `terms` json;--> statement-breakpoint
ALTER TABLE `attribute` ADD `family` varchar(190);--> statement-breakpoint
ALTER TABLE `item` ADD `mpn` varchar(190);--> statement-breakpoint
ALTER TABLE `item` ADD `source_id` int;--> statement-breakpoint
ALTER TABLE `item` ADD `archived` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `picture` ADD `print` char(16);--> statement-breakpoint
ALTER TABLE `picture` ADD `alternative_text` varchar(500);--> statement-breakpoint
ALTER TABLE `source` ADD `address` varchar(700);--> statement-breakpoint
ALTER TABLE `source` ADD `schedule` json;--> statement-breakpoint
ALTER TABLE `source` ADD `automatic` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `etag` varchar(200);--> statement-breakpoint
ALTER TABLE `source` ADD `fetched_at` datetime(3);--> statement-breakpoint
ALTER TABLE `source` ADD `fetch_at` datetime(3);--> statement-breakpoint
ALTER TABLE `source` ADD `fetch_words` varchar(300);--> statement-breakpoint
ALTER TABLE `workspace` ADD `reload_revision` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `run_item_sku` ON `run_item` (`run_id`,`sku`);--> statement-breakpoint
CREATE INDEX `run_item_group` ON `run_item` (`run_id`,`group_key`);--> statement-breakpoint
CREATE INDEX `run_item_kind` ON `run_item` (`run_id`,`kind`,`row_number`);--> statement-breakpoint
CREATE INDEX `item_mpn` ON `item` (`mpn`);--> statement-breakpoint
CREATE INDEX `item_source` ON `item` (`source_id`);--> statement-breakpoint
CREATE INDEX `run_source` ON `run` (`source_id`);--> statement-breakpoint
ALTER TABLE `run` DROP COLUMN `examples`;--> statement-breakpoint
UPDATE `item` SET `mpn` = JSON_VALUE(`own_values`, '$.mpn');
