CREATE TABLE `keyword` (
	`language` varchar(3) NOT NULL,
	`category` varchar(190) NOT NULL,
	`term` varchar(120) NOT NULL,
	`volume` int NOT NULL,
	CONSTRAINT `keyword_language_category_term_pk` PRIMARY KEY(`language`,`category`,`term`)
);
--> statement-breakpoint
ALTER TABLE `workspace` ADD `keywords_revision` bigint DEFAULT 0 NOT NULL;