CREATE TABLE `activity` (
	`id` int AUTO_INCREMENT NOT NULL,
	`at` datetime(3) NOT NULL,
	`who` varchar(100) NOT NULL,
	`what` varchar(300) NOT NULL,
	`subject` varchar(300) NOT NULL,
	CONSTRAINT `activity_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `attribute` (
	`code` varchar(190) NOT NULL,
	`label` varchar(200) NOT NULL,
	`kind` varchar(20) NOT NULL,
	`unit` varchar(20),
	`synonyms` json NOT NULL,
	`position` int NOT NULL,
	CONSTRAINT `attribute_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `draft` (
	`feed` varchar(190) NOT NULL,
	`plan` json NOT NULL,
	`revision` int NOT NULL,
	CONSTRAINT `draft_feed` PRIMARY KEY(`feed`)
);
--> statement-breakpoint
CREATE TABLE `draft_step` (
	`id` int AUTO_INCREMENT NOT NULL,
	`feed` varchar(190) NOT NULL,
	`words` varchar(300) NOT NULL,
	`plan` json NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `draft_step_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `family` (
	`code` varchar(190) NOT NULL,
	`varies_by` json NOT NULL,
	`own_values` json NOT NULL,
	`revision` bigint NOT NULL,
	CONSTRAINT `family_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `feed` (
	`code` varchar(190) NOT NULL,
	`channel` varchar(190) NOT NULL,
	`country` char(2) NOT NULL,
	`language` varchar(20) NOT NULL,
	`currency` char(3) NOT NULL,
	`position` int NOT NULL,
	CONSTRAINT `feed_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `item` (
	`id` int AUTO_INCREMENT NOT NULL,
	`sku` varchar(190) NOT NULL,
	`family` varchar(190),
	`own_values` json NOT NULL,
	`origins` json NOT NULL,
	`name` varchar(500),
	`brand` varchar(190),
	`gtin` varchar(190),
	`category` varchar(190),
	`revision` bigint NOT NULL,
	CONSTRAINT `item_id` PRIMARY KEY(`id`),
	CONSTRAINT `item_sku` UNIQUE(`sku`)
);
--> statement-breakpoint
CREATE TABLE `job` (
	`id` int AUTO_INCREMENT NOT NULL,
	`kind` varchar(40) NOT NULL,
	`payload` json NOT NULL,
	`state` varchar(20) NOT NULL,
	`attempts` int NOT NULL,
	`run_at` datetime(3) NOT NULL,
	`leased_until` datetime(3),
	`progress` double NOT NULL,
	`stop_asked` boolean NOT NULL,
	`error` text,
	CONSTRAINT `job_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `listing` (
	`feed` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`sent_digest` char(32),
	`accepted_digest` char(32),
	`answer` varchar(20) NOT NULL,
	`problems` json NOT NULL,
	`submission_id` int NOT NULL,
	CONSTRAINT `listing_feed_sku_pk` PRIMARY KEY(`feed`,`sku`)
);
--> statement-breakpoint
CREATE TABLE `picture` (
	`link` varchar(700) NOT NULL,
	`file` varchar(200),
	`facts` json,
	CONSTRAINT `picture_link` PRIMARY KEY(`link`)
);
--> statement-breakpoint
CREATE TABLE `plan_version` (
	`feed` varchar(190) NOT NULL,
	`version` int NOT NULL,
	`plan` json NOT NULL,
	`published_at` datetime(3) NOT NULL,
	`words` varchar(300) NOT NULL,
	CONSTRAINT `plan_version_feed_version_pk` PRIMARY KEY(`feed`,`version`)
);
--> statement-breakpoint
CREATE TABLE `rejection` (
	`run_id` int NOT NULL,
	`row_number` int NOT NULL,
	`reason` varchar(500) NOT NULL,
	`record` json NOT NULL,
	CONSTRAINT `rejection_run_id_row_number_pk` PRIMARY KEY(`run_id`,`row_number`)
);
--> statement-breakpoint
CREATE TABLE `run` (
	`id` int AUTO_INCREMENT NOT NULL,
	`source_id` int NOT NULL,
	`file_name` varchar(300) NOT NULL,
	`path` varchar(500) NOT NULL,
	`bytes` bigint NOT NULL,
	`mapping` json NOT NULL,
	`state` varchar(20) NOT NULL,
	`counts` json NOT NULL,
	`examples` json NOT NULL,
	`bytes_done` bigint NOT NULL,
	`rows_done` int NOT NULL,
	`error` text,
	`created_at` datetime(3) NOT NULL,
	`finished_at` datetime(3),
	CONSTRAINT `run_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `sample` (
	`sku` varchar(190) NOT NULL,
	`position` int NOT NULL,
	CONSTRAINT `sample_sku` PRIMARY KEY(`sku`)
);
--> statement-breakpoint
CREATE TABLE `source` (
	`id` int AUTO_INCREMENT NOT NULL,
	`name` varchar(200) NOT NULL,
	`mapping` json,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `source_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `submission` (
	`id` int AUTO_INCREMENT NOT NULL,
	`feed` varchar(190) NOT NULL,
	`version` int NOT NULL,
	`state` varchar(20) NOT NULL,
	`idempotency_key` char(36) NOT NULL,
	`remote_id` varchar(100),
	`total` int NOT NULL,
	`accepted` int NOT NULL,
	`refused` int NOT NULL,
	`error` text,
	`created_at` datetime(3) NOT NULL,
	`sent_at` datetime(3),
	`answered_at` datetime(3),
	CONSTRAINT `submission_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `submission_entry` (
	`submission_id` int NOT NULL,
	`sku` varchar(190) NOT NULL,
	`digest` char(32) NOT NULL,
	`sent_values` json NOT NULL,
	`answer` varchar(20) NOT NULL,
	`problems` json NOT NULL,
	CONSTRAINT `submission_entry_submission_id_sku_pk` PRIMARY KEY(`submission_id`,`sku`)
);
--> statement-breakpoint
CREATE TABLE `workspace` (
	`id` int NOT NULL,
	`name` varchar(200) NOT NULL,
	`catalog_revision` bigint NOT NULL,
	CONSTRAINT `workspace_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `draft_step_feed` ON `draft_step` (`feed`);--> statement-breakpoint
CREATE INDEX `item_family` ON `item` (`family`);--> statement-breakpoint
CREATE INDEX `item_category` ON `item` (`category`);--> statement-breakpoint
CREATE INDEX `item_gtin` ON `item` (`gtin`);--> statement-breakpoint
CREATE INDEX `item_brand` ON `item` (`brand`);--> statement-breakpoint
CREATE INDEX `item_revision` ON `item` (`revision`);--> statement-breakpoint
CREATE INDEX `job_ready` ON `job` (`state`,`run_at`);--> statement-breakpoint
CREATE INDEX `job_leased` ON `job` (`state`,`leased_until`);--> statement-breakpoint
CREATE INDEX `submission_feed` ON `submission` (`feed`);