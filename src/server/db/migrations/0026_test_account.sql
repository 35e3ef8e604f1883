ALTER TABLE `destination` ADD `testing` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `destination` ADD `test_address` varchar(700);--> statement-breakpoint
ALTER TABLE `destination` ADD `test_credential` varchar(1000);