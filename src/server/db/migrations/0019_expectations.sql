CREATE TABLE `feed_expectation` (
	`id` int AUTO_INCREMENT NOT NULL,
	`feed` varchar(190) NOT NULL,
	`expectation` json NOT NULL,
	CONSTRAINT `feed_expectation_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `left_draft` (
	`feed` varchar(190) NOT NULL,
	`name` varchar(80) NOT NULL,
	`plan` json NOT NULL,
	`left_at` datetime(3) NOT NULL,
	CONSTRAINT `left_draft_feed_name_pk` PRIMARY KEY(`feed`,`name`)
);
--> statement-breakpoint
CREATE INDEX `feed_expectation_feed` ON `feed_expectation` (`feed`);