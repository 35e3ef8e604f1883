RENAME TABLE `notice` TO `notification`, `hook` TO `webhook`, `hook_delivery` TO `webhook_delivery`, `partner_range` TO `supplier_range`, `partner_variant` TO `supplier_variant`, `partner_pair` TO `supplier_match`, `number_block` TO `gtin_block`, `number_given` TO `gtin_assignment`, `pace` TO `rate_limit`, `left_draft` TO `saved_draft`, `item_remark` TO `item_hint`, `pressed` TO `request_once`;--> statement-breakpoint
ALTER TABLE `notification` RENAME COLUMN `seen_at` TO `read_at`, RENAME INDEX `notice_seen` TO `notification_read`, RENAME INDEX `notice_at` TO `notification_at`;--> statement-breakpoint
ALTER TABLE `webhook_delivery` RENAME COLUMN `hook_id` TO `webhook_id`, RENAME COLUMN `notice_id` TO `notification_id`, RENAME INDEX `hook_delivery_hook` TO `webhook_delivery_webhook`, RENAME INDEX `hook_delivery_at` TO `webhook_delivery_at`;--> statement-breakpoint
ALTER TABLE `supplier_range` RENAME COLUMN `brought_at` TO `imported_at`;--> statement-breakpoint
ALTER TABLE `gtin_block` RENAME COLUMN `body` TO `first_number`;--> statement-breakpoint
ALTER TABLE `gtin_assignment` RENAME INDEX `number_given_sku` TO `gtin_assignment_sku`;--> statement-breakpoint
ALTER TABLE `saved_draft` RENAME COLUMN `left_at` TO `saved_at`, DROP FOREIGN KEY `left_draft_feed_feed_code_fk`;--> statement-breakpoint
ALTER TABLE `saved_draft` ADD CONSTRAINT `saved_draft_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `item_hint` RENAME COLUMN `remarks` TO `hints`, RENAME INDEX `item_remark_revision` TO `item_hint_revision`;--> statement-breakpoint
ALTER TABLE `request_once` RENAME COLUMN `press` TO `id`, RENAME INDEX `pressed_at` TO `request_once_at`;--> statement-breakpoint
ALTER TABLE `picture` RENAME COLUMN `print` TO `perceptual_hash`, RENAME COLUMN `look` TO `thumbnail`, RENAME INDEX `picture_print` TO `picture_perceptual_hash`;--> statement-breakpoint
ALTER TABLE `feed_listing` RENAME COLUMN `got` TO `completed`, RENAME COLUMN `of` TO `total`;--> statement-breakpoint
ALTER TABLE `ledger` RENAME COLUMN `held_digest` TO `accepted_digest`, RENAME COLUMN `held_submission` TO `accepted_submission`, RENAME COLUMN `held_values` TO `accepted_values`, RENAME COLUMN `refused_digest` TO `rejected_digest`, RENAME COLUMN `refused_submission` TO `rejected_submission`, ADD `revision` bigint DEFAULT 0 NOT NULL, DROP INDEX `ledger_changed`, ADD INDEX `ledger_revision` (`feed`,`revision`);--> statement-breakpoint
CREATE TABLE `ledger_revision` (
	`feed` varchar(190) NOT NULL,
	`revision` bigint NOT NULL,
	CONSTRAINT `ledger_revision_feed` PRIMARY KEY(`feed`)
);
--> statement-breakpoint
ALTER TABLE `ledger_revision` ADD CONSTRAINT `ledger_revision_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `submission` ADD `planned_at` datetime(3);
