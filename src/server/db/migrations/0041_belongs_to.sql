DELETE c FROM `batch` c LEFT JOIN `submission` p ON p.`id` = c.`submission_id` WHERE p.`id` IS NULL;--> statement-breakpoint
DELETE c FROM `channel_comparison` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `channel_entry` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `channel_entry_not` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `destination` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `draft` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `draft_step` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `feed_expectation` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `feed_schedule` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `feed_summary` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `left_draft` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `plan_version` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `publication` c LEFT JOIN `feed` p ON p.`code` = c.`feed` WHERE p.`code` IS NULL;--> statement-breakpoint
DELETE c FROM `run` c LEFT JOIN `source` p ON p.`id` = c.`source_id` WHERE p.`id` IS NULL;--> statement-breakpoint
DELETE c FROM `run_item` c LEFT JOIN `run` p ON p.`id` = c.`run_id` WHERE p.`id` IS NULL;--> statement-breakpoint
DELETE c FROM `run_family` c LEFT JOIN `run` p ON p.`id` = c.`run_id` WHERE p.`id` IS NULL;--> statement-breakpoint
DELETE c FROM `rejection` c LEFT JOIN `run` p ON p.`id` = c.`run_id` WHERE p.`id` IS NULL;--> statement-breakpoint
ALTER TABLE `batch` ADD CONSTRAINT `batch_submission_id_submission_id_fk` FOREIGN KEY (`submission_id`) REFERENCES `submission`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `channel_comparison` ADD CONSTRAINT `channel_comparison_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `channel_entry` ADD CONSTRAINT `channel_entry_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `channel_entry_not` ADD CONSTRAINT `channel_entry_not_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `destination` ADD CONSTRAINT `destination_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `draft` ADD CONSTRAINT `draft_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `draft_step` ADD CONSTRAINT `draft_step_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `feed_expectation` ADD CONSTRAINT `feed_expectation_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `feed_schedule` ADD CONSTRAINT `feed_schedule_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `feed_summary` ADD CONSTRAINT `feed_summary_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `left_draft` ADD CONSTRAINT `left_draft_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `plan_version` ADD CONSTRAINT `plan_version_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `publication` ADD CONSTRAINT `publication_feed_feed_code_fk` FOREIGN KEY (`feed`) REFERENCES `feed`(`code`) ON DELETE cascade ON UPDATE cascade;--> statement-breakpoint
ALTER TABLE `rejection` ADD CONSTRAINT `rejection_run_id_run_id_fk` FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run` ADD CONSTRAINT `run_source_id_source_id_fk` FOREIGN KEY (`source_id`) REFERENCES `source`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run_family` ADD CONSTRAINT `run_family_run_id_run_id_fk` FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run_item` ADD CONSTRAINT `run_item_run_id_run_id_fk` FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON DELETE cascade ON UPDATE no action;