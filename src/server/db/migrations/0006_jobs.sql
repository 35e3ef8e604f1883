ALTER TABLE `job` ADD `owner` char(36);--> statement-breakpoint
ALTER TABLE `job` ADD `finished_at` datetime(3);--> statement-breakpoint
ALTER TABLE `picture` ADD `trouble` varchar(200);