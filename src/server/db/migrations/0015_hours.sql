CREATE TABLE `feed_schedule` (
	`feed` varchar(190) NOT NULL,
	`schedule` json,
	`began_at` datetime(3) NOT NULL,
	`quick` boolean NOT NULL DEFAULT false,
	`paused` boolean NOT NULL DEFAULT false,
	`next_at` datetime(3),
	`last_at` datetime(3),
	`last_words` varchar(300),
	`revision` int NOT NULL,
	CONSTRAINT `feed_schedule_feed` PRIMARY KEY(`feed`)
);
--> statement-breakpoint
CREATE TABLE `hook` (
	`id` int AUTO_INCREMENT NOT NULL,
	`address` varchar(700) NOT NULL,
	`secret` varchar(1000) NOT NULL,
	`kinds` json NOT NULL,
	`is_on` boolean NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `hook_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `hook_delivery` (
	`id` int AUTO_INCREMENT NOT NULL,
	`hook_id` int NOT NULL,
	`notice_id` int,
	`at` datetime(3) NOT NULL,
	`body` text NOT NULL,
	`state` varchar(10) NOT NULL,
	`status` int,
	`words` varchar(300),
	`tries` int NOT NULL,
	CONSTRAINT `hook_delivery_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `notice` (
	`id` int AUTO_INCREMENT NOT NULL,
	`at` datetime(3) NOT NULL,
	`kind` varchar(20) NOT NULL,
	`feed` varchar(190),
	`facts` json NOT NULL,
	`seen_at` datetime(3),
	CONSTRAINT `notice_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `submission` ADD `cause` varchar(10) DEFAULT 'hand' NOT NULL;--> statement-breakpoint
ALTER TABLE `submission` ADD `foreseen` int DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `feed_schedule_next` ON `feed_schedule` (`next_at`);--> statement-breakpoint
CREATE INDEX `hook_delivery_hook` ON `hook_delivery` (`hook_id`);--> statement-breakpoint
CREATE INDEX `hook_delivery_at` ON `hook_delivery` (`at`);--> statement-breakpoint
CREATE INDEX `notice_seen` ON `notice` (`seen_at`);--> statement-breakpoint
CREATE INDEX `notice_at` ON `notice` (`at`);--> statement-breakpoint
CREATE INDEX `submission_answered` ON `submission` (`answered_at`);