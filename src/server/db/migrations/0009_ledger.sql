CREATE TABLE `batch` (
	`submission_id` int NOT NULL,
	`position` int NOT NULL,
	`state` varchar(12) NOT NULL,
	`count` int NOT NULL,
	`file` char(64) NOT NULL,
	`bytes` bigint NOT NULL,
	`idempotency_key` char(36) NOT NULL,
	`receipt` varchar(200),
	`tries` int NOT NULL DEFAULT 0,
	`error` varchar(500),
	`sent_at` datetime(3),
	`answered_at` datetime(3),
	CONSTRAINT `batch_submission_id_position_pk` PRIMARY KEY(`submission_id`,`position`),
	CONSTRAINT `batch_key` UNIQUE(`idempotency_key`)
);
--> statement-breakpoint
CREATE TABLE `destination` (
	`feed` varchar(190) NOT NULL,
	`address` varchar(700),
	`credential` varchar(1000),
	`token` char(48),
	`of_blocked` varchar(10) NOT NULL,
	`limits` json NOT NULL,
	`paused` boolean NOT NULL DEFAULT false,
	`revision` int NOT NULL,
	CONSTRAINT `destination_feed` PRIMARY KEY(`feed`)
);
--> statement-breakpoint
CREATE TABLE `ledger` (
	`feed` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`held_digest` char(32),
	`held_submission` int,
	`held_values` json,
	`pending_submission` int,
	`pending_digest` char(32),
	`refused_digest` char(32),
	`refused_submission` int,
	`problems` json NOT NULL,
	`unsure` boolean NOT NULL DEFAULT false,
	`in_review` boolean NOT NULL DEFAULT false,
	`withdrawn` boolean NOT NULL DEFAULT false,
	`number` varchar(100),
	`changed_at` datetime(3) NOT NULL,
	CONSTRAINT `ledger_feed_sku_pk` PRIMARY KEY(`feed`,`sku`)
);
--> statement-breakpoint
CREATE TABLE `pace` (
	`destination` varchar(190) NOT NULL,
	`times` json NOT NULL,
	`held_until` datetime(3),
	`holder` char(36),
	`failures` int NOT NULL,
	`closed_until` datetime(3),
	`words` varchar(300),
	CONSTRAINT `pace_destination` PRIMARY KEY(`destination`)
);
--> statement-breakpoint
CREATE TABLE `publication` (
	`feed` varchar(190) NOT NULL,
	`number` int NOT NULL,
	`submission_id` int NOT NULL,
	`file` char(64) NOT NULL,
	`bytes` bigint NOT NULL,
	`count` int NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `publication_feed_number_pk` PRIMARY KEY(`feed`,`number`)
);
--> statement-breakpoint
ALTER TABLE `submission_entry` MODIFY COLUMN `digest` char(32);--> statement-breakpoint
ALTER TABLE `submission` ADD `sheet_version` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submission` ADD `withdrawn` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submission` ADD `in_review` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submission` ADD `silent` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submission` ADD `alarms` json;--> statement-breakpoint
ALTER TABLE `submission` ADD `released_by` varchar(100);--> statement-breakpoint
ALTER TABLE `submission` ADD `release_words` varchar(300);--> statement-breakpoint
ALTER TABLE `submission_entry` ADD `position` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submission_entry` ADD `batch` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submission_entry` ADD `ref` varchar(190) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `submission_entry` ADD `due` varchar(12) DEFAULT 'new' NOT NULL;--> statement-breakpoint
ALTER TABLE `submission_entry` ADD `relation` varchar(8);--> statement-breakpoint
CREATE INDEX `batch_file` ON `batch` (`file`);--> statement-breakpoint
CREATE INDEX `submission_entry_ref` ON `submission_entry` (`submission_id`,`ref`);--> statement-breakpoint
CREATE INDEX `submission_entry_batch` ON `submission_entry` (`submission_id`,`batch`,`position`);